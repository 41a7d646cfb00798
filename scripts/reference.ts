// Writes docs/reference.md from the source: requests, edits, and the form of a session. `--check` says whether it is current.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import prettier from 'prettier';
import ts from 'typescript';

const root = path.resolve(import.meta.dirname, '..');
const API = path.join(root, 'src/app/api');
const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'];

const filesOf = (dir: string): string[] =>
  readdirSync(dir, { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.ts$/.test(f) && !/\.test\.ts$/.test(f))
    .sort()
    .map((f) => path.join(dir, f));
const parse = (file: string) =>
  ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TS);
const said = (node: ts.Node): string =>
  ts
    .getJSDocCommentsAndTags(node)
    .map((d) => (ts.isJSDoc(d) ? (ts.getTextOfJSDocComment(d.comment) ?? '') : ''))
    .join(' ')
    .replace(/\s+/g, ' ')
    .trim();
const within = (node: ts.Node, look: (n: ts.Node) => void): void =>
  node.forEachChild((n) => {
    look(n);
    within(n, look);
  });

interface Route {
  method: string;
  path: string;
  about: string;
  /** The class that its body is read as. */
  body: string | null;
}

function routesOf(file: string): Route[] {
  const at = `/api/${path.relative(API, path.dirname(file)).replaceAll('[', '{').replaceAll(']', '}')}`;
  return parse(file).statements.flatMap((s): Route[] => {
    if (!ts.isVariableStatement(s) || !s.modifiers?.some((m) => m.kind === ts.SyntaxKind.ExportKeyword)) return [];
    const [d] = s.declarationList.declarations;
    const method = d?.name.getText() ?? '';
    if (!METHODS.includes(method)) return [];
    const about = said(s);
    if (!about) throw new Error(`${path.relative(root, file)}: ${method} says nothing about itself.`);
    let body: string | null = null;
    within(s, (n) => {
      if (ts.isCallExpression(n) && n.expression.getText() === 'asked') body = n.arguments[1]!.getText();
    });
    return [{ method, path: at, about, body }];
  });
}

/** Everything of the core that has a name: classes, interfaces, types. */
type Named = ts.ClassDeclaration | ts.InterfaceDeclaration | ts.TypeAliasDeclaration;
const named = new Map<string, Named>();
for (const file of filesOf(path.join(root, 'src/core')))
  for (const s of parse(file).statements)
    if ((ts.isClassDeclaration(s) || ts.isInterfaceDeclaration(s) || ts.isTypeAliasDeclaration(s)) && s.name) {
      // Of two of one name the session's own counts.
      if (!named.has(s.name.text) || file.includes('/core/session/')) named.set(s.name.text, s);
    }

/** A member without its rules: what stands in a request. */
function member(m: ts.PropertyDeclaration): string {
  const type = m.type?.getText().replace(/\s+/g, ' ') ?? 'unknown';
  return `${m.name.getText()}${m.questionToken ? '?' : ''}: ${type}`;
}

function membersOf(name: string): { text: string; about: string }[] {
  const c = named.get(name);
  if (!c || !ts.isClassDeclaration(c)) return [];
  const from = c.heritageClauses?.flatMap((h) => h.types.map((t) => t.expression.getText())) ?? [];
  return [
    ...from.flatMap(membersOf),
    ...c.members.filter(ts.isPropertyDeclaration).flatMap((m) => {
      const hidden = m.modifiers?.some((x) =>
        [ts.SyntaxKind.StaticKeyword, ts.SyntaxKind.PrivateKeyword, ts.SyntaxKind.AbstractKeyword].includes(x.kind),
      );
      return hidden || m.name.getText() === 'type' ? [] : [{ text: member(m), about: said(m) }];
    }),
  ];
}

const list = (members: { text: string; about: string }[]): string =>
  members.map((m) => `- \`${m.text}\`${m.about ? `: ${m.about}` : ''}`).join('\n');

function routes(): string {
  const all = filesOf(API)
    .filter((f) => f.endsWith('route.ts'))
    .flatMap(routesOf)
    .sort((a, b) =>
      a.path < b.path ? -1 : a.path > b.path ? 1 : METHODS.indexOf(a.method) - METHODS.indexOf(b.method),
    );
  return all
    .map(
      (r) =>
        `### ${r.method} ${r.path}\n\n${r.about}\n\n${r.body ? `Body (${r.body}):\n\n${list(membersOf(r.body))}\n` : ''}`,
    )
    .join('\n');
}

function edits(): string {
  const index = parse(path.join(root, 'src/core/session/edits/index.ts'));
  const found: string[] = [];
  within(index, (n) => {
    if (!ts.isVariableDeclaration(n) || n.name.getText() !== 'EDITS') return;
    within(n, (p) => {
      if (!ts.isPropertyAssignment(p)) return;
      const name = p.initializer.getText().split('.').at(-1)!;
      const c = named.get(name);
      if (!c) throw new Error(`The edit ${name} was not found.`);
      found.push(`### ${p.name.getText()}\n\n${said(c)}\n\n${list(membersOf(name))}\n`);
    });
  });
  return found.join('\n');
}

/** The session's document and everything that it is made of, as the source has it. */
function form(): string {
  const order: string[] = [];
  const take = (name: string) => {
    const d = named.get(name);
    if (!d || order.includes(name)) return;
    order.push(name);
    within(d, (n) => {
      if (ts.isTypeReferenceNode(n)) take(n.typeName.getText());
      if (ts.isExpressionWithTypeArguments(n)) take(n.expression.getText());
    });
  };
  take('SessionDoc');
  return order
    .map((name) => named.get(name)!)
    .filter((d) => !ts.isClassDeclaration(d))
    .map(
      (d) =>
        `### ${d.name.text}\n\n\`\`\`ts\n${d
          .getFullText()
          .trim()
          .replace(/^(\/\/[^\n]*\n)+/, '')}\n\`\`\`\n`,
    )
    .join('\n');
}

const text = `# Reference

Written from the source by \`npx tsx scripts/reference.ts\`; \`npm test\` says when it is not current.

## Requests

JSON in and out unless something else is said; samples and times in whole samples at the session's rate. Figures that are not finite stand as \`{ "figure": "-inf" }\`, \`"+inf"\` or \`"nan"\`. What is refused is answered with a status of 400 or more and \`{ "message": "a sentence" }\`: what is wrong, what was kept, what to do.

${routes()}
## Edits

A session is changed by these only: \`POST /api/sessions/{id}/edits\` with the revision that they were made for, and each as its name (\`type\`) and members. All of a request are done, or none.

${edits()}
## The form of a session

What \`GET /api/sessions/{id}\` answers as \`doc\`, and \`session.json\` of an archive as \`session\`. Checked by \`src/core/session/forms\`.

${form()}`;
const file = path.join(root, 'docs/reference.md');
const config = await prettier.resolveConfig(file);
const out = await prettier.format(text, { ...config, filepath: file });
if (!process.argv.includes('--check')) writeFileSync(file, out);
else if (readFileSync(file, 'utf8') !== out) {
  console.error('docs/reference.md is not current: npx tsx scripts/reference.ts writes it anew.');
  process.exitCode = 1;
}
