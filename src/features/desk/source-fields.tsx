import { Plus, X } from 'lucide-react';
import { ok, type Result } from '@/core/base';
import { setSource } from '@/core/command';
import { VERSION_WORDS, VERSIONS } from '@/core/desk';
import type { Certainty, Source } from '@/core/score';
import { LineField } from '@/features/form/line-field';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';

const box = 'min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]';
const EMPTY: Source = { version: 'record', name: '', evidence: [], authorship: '' };

/** Which performance the piece was worked out from, what that rests on and how sure it is. */
export function SourceFields() {
  const source = usePiece((state) => state.document.source);
  const dispatch = usePiece((state) => state.dispatch);
  const toast = useToast();
  const now = source ?? EMPTY;
  const set = (over: Partial<Source>): Result<unknown> => {
    const done = dispatch(setSource({ ...now, ...over }));
    if (!done.ok && done.error.rule !== 'no-change') toast(done.error.words);
    return done.ok || done.error.rule !== 'no-change' ? done : ok(null);
  };
  const put = (index: number, over: Partial<Source['evidence'][number]>): Result<unknown> =>
    set({ evidence: now.evidence.map((one, i) => (i === index ? { ...one, ...over } : one)) });
  return (
    <section aria-label="Worked out from" className="flex flex-col gap-3">
      <h2 className="border-b border-rule pb-1 text-xl">Worked out from</h2>
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold text-soft">Version</span>
          <select
            className={box}
            value={source?.version ?? ''}
            onChange={(event) => {
              const version = VERSIONS.find((one) => one === event.target.value);
              if (version) set({ version });
              else dispatch(setSource(null));
            }}
          >
            <option value="">not said</option>
            {VERSIONS.map((version) => (
              <option key={version} value={version}>
                {VERSION_WORDS[version]}
              </option>
            ))}
          </select>
        </label>
        <div className="min-w-56 flex-1">
          <LineField label="Which one" value={now.name} onTake={(name) => set({ name: name.slice(0, 200) })} />
        </div>
      </div>
      <fieldset className="flex flex-col gap-1.5">
        <legend className="mb-1 text-sm font-semibold text-soft">What it rests on</legend>
        {now.evidence.map((one, i) => (
          <div key={i} className="flex items-center gap-2">
            <div className="flex-1">
              <LineField
                label={`Evidence ${i + 1}`}
                hideLabel
                value={one.what}
                onTake={(what) => (what ? put(i, { what: what.slice(0, 200) }) : ok(null))}
              />
            </div>
            <select
              aria-label={`Evidence ${i + 1}: how sure`}
              className={box}
              value={one.certainty}
              onChange={(event) => put(i, { certainty: event.target.value as Certainty })}
            >
              <option value="sure">sure</option>
              <option value="likely">likely</option>
              <option value="guess">a guess</option>
            </select>
            <Button
              tone="quiet"
              size="icon"
              aria-label={`Delete evidence ${i + 1}`}
              onClick={() => set({ evidence: now.evidence.filter((_, other) => other !== i) })}
            >
              <X size={16} aria-hidden />
            </Button>
          </div>
        ))}
        <Button
          size="small"
          className="self-start"
          onClick={() => set({ evidence: [...now.evidence, { what: 'heard', certainty: 'likely' }] })}
        >
          <Plus size={16} aria-hidden /> Evidence
        </Button>
      </fieldset>
      <LineField
        label="What is not known about who wrote or played it"
        value={now.authorship}
        onTake={(authorship) => set({ authorship: authorship.slice(0, 600) })}
      />
    </section>
  );
}
