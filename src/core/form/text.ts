import type { Piece, Section } from '../score';
import { printBassLine, printChordLine } from './chord-line';
import { metersOf } from './map';
import { printRow } from './row-line';
import { printRoute } from './route-line';
import { labelled } from './scan';

/** What a section can say of its own, as the first word of a line of the form's text. */
export const FIELDS = ['chords', 'bass notes', 'key', 'tempo', 'meter', 'swing', 'cue'] as const;
export type Field = (typeof FIELDS)[number];

/** A part's name before its row: in quotes where it would be taken for something else. */
const partLabel = (name: string): string =>
  /[:"]/.test(name) || [...FIELDS, 'order'].includes(name.trim().toLowerCase())
    ? `"${name.replaceAll('"', "'")}"`
    : name;

const fieldsOf = (piece: Piece, section: Section): Partial<Record<Field, string>> => {
  const { context, cue } = section;
  const meters = metersOf(piece, section);
  const [key] = context?.key ?? [];
  const [tempo] = context?.tempo ?? [];
  const [meter] = context?.meters ?? [];
  const [feel] = context?.feel ?? [];
  return {
    ...(context?.chords ? { chords: printChordLine(context.chords, meters, section.bars) } : {}),
    ...(context?.bass ? { 'bass notes': printBassLine(context.bass, meters, section.bars) } : {}),
    ...(key ? { key: `${key.tonic} ${key.mode}` } : {}),
    ...(tempo ? { tempo: String(tempo.bpm) } : {}),
    ...(meter ? { meter: `${meter.beats}/${meter.unit}` } : {}),
    ...(feel ? { swing: feel.swing === 50 ? 'straight' : String(feel.swing) } : {}),
    ...(cue ? { cue } : {}),
  };
};

/**
 * A form as text, as it can be read back: a line for each section with its bars, under it what it says and what each
 * part plays, and last the order of playing.
 */
export function printForm(piece: Piece): string {
  const lines: string[] = [];
  const names = new Map(labelled(piece.sections).map((section) => [section.id, section.name]));
  const parts = labelled(piece.parts);
  for (const section of piece.sections) {
    lines.push(`${names.get(section.id) ?? section.name}, ${section.bars} ${section.bars === 1 ? 'bar' : 'bars'}`);
    for (const [field, value] of Object.entries(fieldsOf(piece, section))) lines.push(`  ${field}: ${value}`);
    for (const row of section.rows) {
      const part = parts.find((one) => one.id === row.part);
      if (part && row.uses.length > 0) lines.push(`  ${partLabel(part.name)}: ${printRow(row.uses, part)}`);
    }
  }
  if (piece.form.length > 0) lines.push(`order: ${printRoute(piece.form, piece.sections)}`);
  return lines.join('\n');
}
