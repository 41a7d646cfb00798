import { XMLParser } from 'fast-xml-parser';

/** A parsed element: child elements and text by name; attributes begin with "@". */
export type XmlNode = { [name: string]: XmlNode | XmlNode[] | string | undefined };

// Entities of a document's own are not expanded: a small file must not become a large one.
const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  parseTagValue: false,
  parseAttributeValue: false,
  processEntities: true,
  htmlEntities: false,
});

/** Throws Error when the text is no XML. */
export function parseXml(text: string): XmlNode {
  if (/<!DOCTYPE/i.test(text)) throw new Error('document type declarations are not read');
  return parser.parse(text) as XmlNode;
}

export const child = (node: XmlNode | undefined, name: string): XmlNode | undefined => {
  const found = node?.[name];
  const one = Array.isArray(found) ? found[0] : found;
  return typeof one === 'object' ? one : undefined;
};

export const children = (node: XmlNode | undefined, name: string): XmlNode[] => {
  const found = node?.[name];
  const all = Array.isArray(found) ? found : found === undefined ? [] : [found];
  return all.flatMap((n) => (typeof n === 'object' ? [n] : []));
};

export const textOf = (node: XmlNode | undefined, name: string): string | undefined => {
  const found = node?.[name];
  const one = Array.isArray(found) ? found[0] : found;
  if (typeof one === 'string') return one;
  const inner = one?.['#text'];
  return typeof inner === 'string' ? inner : undefined;
};

export const escapeXml = (text: string): string =>
  text.replace(/[<>&"']/g, (c) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;', "'": '&apos;' })[c]!);
