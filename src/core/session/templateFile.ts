import { EditRefused, type SessionDoc } from './document';
import { wholeDocument } from './wholeDocument';

/** The description inside a template file: a ZIP with this as template.json and the sound files under media/. */
export interface TemplateFile {
  format: 'wide-room-template';
  version: 1;
  name: string;
  category: string;
  session: SessionDoc;
  /** Name under media/ by media id. */
  files: Record<string, string>;
}

/** Reads the description of a template file. Throws EditRefused with a sentence that says what is wrong. */
export function readTemplate(text: string): TemplateFile {
  let json: Partial<TemplateFile>;
  try {
    json = JSON.parse(text) as Partial<TemplateFile>;
  } catch {
    throw new EditRefused('template.json in this file is no JSON; nothing was taken in.');
  }
  if (json?.format !== 'wide-room-template')
    throw new EditRefused('This is no template of Wide Room; nothing was taken in.');
  if (json.version !== 1)
    throw new EditRefused(
      `This template has the form ${String(json.version)}, this release knows 1; nothing was taken in.`,
    );
  const { session, name, category, files } = json;
  if (typeof name !== 'string' || !name.trim() || typeof category !== 'string' || typeof files !== 'object' || !files)
    throw new EditRefused('The template lacks name, category or files; nothing was taken in.');
  if (name.length > 80 || category.length > 80)
    throw new EditRefused('The name or category of the template is longer than 80 characters; nothing was taken in.');
  if (!session) throw new EditRefused('The template holds no session; nothing was taken in.');
  for (const file of Object.values(files))
    if (typeof file !== 'string' || file.length > 255 || /[\\/\0]|^\.|\.\.|[{,]\.|^$/.test(file))
      throw new EditRefused(`The template names a file "${String(file)}" outside its folder; nothing was taken in.`);
  return {
    format: 'wide-room-template',
    version: 1,
    name,
    category,
    session: wholeDocument(session, 'template'),
    files,
  };
}
