import { type Diagnostic } from '@codemirror/lint';
import { RangeSetBuilder, type Extension } from '@codemirror/state';
import { Decoration, EditorView, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view';
import { readCalls, type CallContext, type Called } from '@/core/shorthand';

/** Marks every token by how it was understood: solid underline, dashed where it has other readings. */
export function marks(read: () => Called): Extension {
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor() {
        this.decorations = this.build();
      }
      update(update: ViewUpdate): void {
        if (update.docChanged || update.selectionSet || update.focusChanged) this.decorations = this.build();
      }
      build(): DecorationSet {
        const builder = new RangeSetBuilder<Decoration>();
        const called = read();
        for (const understood of [...called.tokens].sort((a, b) => a.from - b.from || a.to - b.to)) {
          if (understood.to > understood.from)
            builder.add(
              understood.from,
              understood.to,
              Decoration.mark({
                class: understood.readings.length > 0 ? 'call-open' : 'call-known',
                attributes: { title: understood.label },
              }),
            );
        }
        return builder.finish();
      }
    },
    { decorations: (v) => v.decorations },
  );
}

export const theme = EditorView.theme({
  '&': { fontSize: '18px', backgroundColor: 'transparent' },
  '&.cm-focused': { outline: 'none' },
  '.cm-content': {
    fontFamily: 'var(--font-figures)',
    color: 'var(--ink)',
    caretColor: 'var(--yours)',
    padding: '5px 0',
  },
  '.cm-line': { padding: '0 2px' },
  '.cm-cursor': { borderLeftColor: 'var(--yours)', borderLeftWidth: '2px' },
  '.cm-placeholder': { color: 'var(--soft)' },
  '.call-known': { borderBottom: '2px solid var(--proposed)' },
  '.call-open': { borderBottom: '2px dashed var(--question)' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '3px double var(--trouble)' },
  '.cm-lintRange-warning': { backgroundImage: 'none', borderBottom: '2px dotted var(--question)' },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--line)' },
});

/** What is wrong or odd in a text, where. */
export function diagnosticsOf(text: string, context: CallContext): Diagnostic[] {
  const { faults, warnings } = readCalls(text, context);
  const at =
    (severity: 'error' | 'warning') =>
    ({ locus, words }: (typeof faults)[number]): Diagnostic => ({
      from: Math.min(locus.text.from, text.length),
      to: Math.min(locus.text.to, text.length),
      severity,
      message: words,
    });
  return [...faults.map(at('error')), ...warnings.map(at('warning'))];
}
