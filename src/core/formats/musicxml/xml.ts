import { SaxesParser } from 'saxes';
import { fail, ok, type Result } from '../../base';
import type { Progress } from '../music';
import { MUSICXML_LIMITS } from './limits';

/** A small ordered tree: children stand as in the file, so that note, backup and forward keep their order. */
export interface Element {
  readonly name: string;
  readonly attrs: Readonly<Record<string, string>>;
  readonly children: readonly Element[];
  readonly text: string;
}

interface Growing {
  name: string;
  attrs: Record<string, string>;
  children: Growing[];
  text: string;
}

const NONE: Growing[] = [];
const NO_ATTRIBUTES: Record<string, string> = {};

function isEmpty(attributes: object): boolean {
  for (const _ in attributes) return false;
  return true;
}

const CHUNK = 256 * 1024;
/** Characters of an error message that are passed on. */
const MOST_WORDS = 160;

/** Bytes of an XML file as text: by its byte order mark, its declaration, or as UTF-8. */
export function decodeXml(bytes: Uint8Array): Result<string> {
  const [a = 0, b = 0, c = 0, d = 0] = bytes;
  const marked =
    a === 0xff && b === 0xfe
      ? 'utf-16le'
      : a === 0xfe && b === 0xff
        ? 'utf-16be'
        : a === 0xef && b === 0xbb && c === 0xbf
          ? 'utf-8'
          : null;
  const spaced = a === 0x3c && b === 0 ? 'utf-16le' : a === 0 && b === 0x3c && c === 0 && d !== 0 ? 'utf-16be' : null;
  const head = String.fromCharCode(...bytes.subarray(0, 160));
  const declared = /^\s*<\?xml[^>]*encoding\s*=\s*["']([A-Za-z0-9._-]+)["']/.exec(head)?.[1]?.toLowerCase() ?? null;
  // Whoever reads the declaration byte by byte has no file of two bytes a letter, whatever it declares.
  const name = marked ?? spaced ?? (declared?.startsWith('utf-16') ? 'utf-8' : (declared ?? 'utf-8'));
  try {
    return ok(new TextDecoder(name, { fatal: true }).decode(bytes));
  } catch (reason) {
    if (reason instanceof RangeError)
      return fail('encoding', `The file says it is written in "${name}", which is not known. Save it as UTF-8.`, {
        byte: 0,
      });
    const other = declared === null || name === 'utf-8' ? 'UTF-8' : name;
    return fail(
      'encoding',
      `The file says it is ${other}, and its letters are not: it was saved in another encoding. Save it again as UTF-8.`,
      { byte: firstWrong(bytes, name) },
    );
  }
}

/** Where a file stops being what it says, by halving. */
function firstWrong(bytes: Uint8Array, name: string): number {
  let [good, bad] = [0, bytes.length];
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    try {
      new TextDecoder(name, { fatal: true }).decode(bytes.subarray(0, middle), { stream: true });
      good = middle;
    } catch {
      bad = middle;
    }
  }
  return good;
}

/** Reads a document into a tree. Entities of a file's own are never looked up. Faults say the line. */
export function parseXml(text: string, progress: Progress = () => undefined): Result<Element> {
  const parser = new SaxesParser({ xmlns: false, position: true });
  const root: Growing = { name: '', attrs: {}, children: NONE, text: '' };
  const stack: Growing[] = [root];
  let count = 0;
  let fault: { rule: string; words: string } | null = null;
  const stop = (rule: string, words: string): never => {
    fault ??= { rule, words };
    throw new Stop();
  };
  parser.on('error', (error) =>
    stop(
      'broken-xml',
      `The file is damaged or cut short in line ${parser.line}: ${plain(error.message)}. Export it again.`,
    ),
  );
  parser.on('opentag', ({ name, attributes }) => {
    if (++count > MUSICXML_LIMITS.elements)
      stop('too-many', `The file has over ${MUSICXML_LIMITS.elements} elements. Export fewer parts or bars.`);
    if (stack.length > MUSICXML_LIMITS.depth)
      stop('too-deep', `In line ${parser.line} elements stand over ${MUSICXML_LIMITS.depth} deep: this is no score.`);
    // Most elements have neither attributes nor children: those share what is empty.
    const one: Growing = { name, attrs: isEmpty(attributes) ? NO_ATTRIBUTES : attributes, children: NONE, text: '' };
    const top = stack[stack.length - 1] ?? root;
    if (top.children === NONE) top.children = [one];
    else top.children.push(one);
    stack.push(one);
  });
  parser.on('closetag', () => void stack.pop());
  const write = (words: string): void => {
    const top = stack.at(-1);
    if (top) top.text += words;
  };
  parser.on('text', write);
  parser.on('cdata', write);
  try {
    for (let at = 0; at < text.length; at += CHUNK) {
      parser.write(text.slice(at, at + CHUNK));
      progress(Math.min(1, (at + CHUNK) / text.length));
    }
    parser.close();
  } catch (reason) {
    if (!(reason instanceof Stop)) throw reason;
  }
  if (fault !== null) {
    const { rule, words } = fault as { rule: string; words: string };
    return fail(rule, words, { path: ['line', parser.line] });
  }
  const [top] = root.children;
  return top ? ok(top) : fail('broken-xml', 'The file holds no XML.', { byte: 0 });
}

class Stop extends Error {}

/** A parser's message without its own place, which we say ourselves. */
const plain = (message: string): string =>
  message
    .replace(/^\d+:\d+:\s*/, '')
    .replace(/\.$/, '')
    .slice(0, MOST_WORDS);

export const child = (one: Element | undefined, name: string): Element | undefined =>
  one?.children.find((each) => each.name === name);

export const childrenOf = (one: Element | undefined, name: string): readonly Element[] =>
  one?.children.filter((each) => each.name === name) ?? [];

/** The text of a child, trimmed; null where there is no such child. */
export const textOf = (one: Element | undefined, name: string): string | null => child(one, name)?.text.trim() ?? null;

/** The number in a child; null where there is none. */
export function numberOf(one: Element | undefined, name: string): number | null {
  const text = textOf(one, name);
  return text === null || text === '' || !Number.isFinite(Number(text)) ? null : Number(text);
}

/** Whether a child stands there that is not only to be looked at. */
export const has = (one: Element | undefined, name: string): boolean => child(one, name) !== undefined;
