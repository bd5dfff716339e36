import Papa from 'papaparse';
import { attachment } from './http';
import type { LogRow } from './repositories/logs';

/**
 * Rows as CSV by RFC 4180, with a line of names, in UTF-8 with its mark so that spreadsheets read it right. What a
 * spreadsheet would take for a formula is told as text.
 */
export const csvOf = (rows: readonly LogRow[], columns: readonly string[]): string =>
  `\ufeff${Papa.unparse({ fields: [...columns], data: rows.map((row) => columns.map((column) => row[column] ?? '')) }, { escapeFormulae: true, newline: '\r\n' })}\r\n`;

export const csvFile = (name: string, rows: readonly LogRow[], columns: readonly string[]): Response =>
  attachment(`${name}.csv`, 'text/csv; charset=utf-8', new TextEncoder().encode(csvOf(rows, columns)));
