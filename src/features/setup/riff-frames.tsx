import { ArrowDown, ArrowUp } from 'lucide-react';
import { insertRiff, setFrame, type FrameChange } from '@/core/command';
import { makeRiff, type Part, type Piece } from '@/core/score';
import { parseMeter, parseQuarter, ZERO } from '@/core/time';
import { Button } from '@/ui/button';
import { NameField, useEdit } from './setup-inputs';

/** The riffs of a part: their frames, their order, and the part they belong to. */
export function RiffFrames({ piece, part }: { readonly piece: Piece; readonly part: Part }) {
  const edit = useEdit();
  return (
    <section aria-label="Riffs" className="flex flex-col gap-3">
      <h2 className="text-xl">Riffs of this part</h2>
      {part.riffs.map((riff, index) => {
        const move = (to: string, at: number): boolean =>
          edit({ type: 'moveRiff', part: part.id, riff: riff.id, to, at });
        const meter = riff.meters[0] ?? { bar: 0, beats: 4, unit: 4 };
        const set = (change: FrameChange): boolean => {
          const made = setFrame(piece, riff.id, change);
          return made.ok && edit(made.value);
        };
        return (
          <div
            key={riff.id}
            className="grid grid-cols-[1fr_5rem_5rem_5rem_auto] max-[899px]:grid-cols-2 items-end gap-2"
          >
            <NameField label="Name" value={riff.name} onSave={(name) => set({ name })} />
            <NameField
              label="Meter"
              value={`${meter.beats}/${meter.unit}`}
              check={(text) => (parseMeter(text) ? null : 'Such as 4/4.')}
              onSave={(text) => set({ meters: [{ ...meter, ...parseMeter(text) }, ...riff.meters.slice(1)] })}
            />
            <NameField
              label="Bars"
              value={String(riff.bars)}
              check={(text) => (/^\d+$/.test(text) && Number(text) > 0 ? null : 'A whole number.')}
              onSave={(text) => set({ bars: Number(text) })}
            />
            <NameField
              label="Pickup"
              value={riff.pickup}
              check={(text) => (parseQuarter(text) && !text.startsWith('-') ? null : 'Quarters, as 1/2.')}
              onSave={(text) => set({ pickup: parseQuarter(text) ?? ZERO })}
            />
            <RiffMoves {...{ piece, part, riff, index, move }} />
          </div>
        );
      })}
      <Button
        size="small"
        className="self-start"
        onClick={() => {
          const made = insertRiff(piece, part.id, makeRiff('r', `Riff ${part.riffs.length + 1}`, { bars: 2 }));
          if (made.ok) edit(made.value.edit);
        }}
      >
        Add a riff
      </Button>
    </section>
  );
}

/** Where a riff stands among those of its part, in which part, and whether it stays. */
function RiffMoves({
  piece,
  part,
  riff,
  index,
  move,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Part['riffs'][number];
  readonly index: number;
  readonly move: (to: string, at: number) => boolean;
}) {
  const edit = useEdit();
  const others = piece.parts.filter((one) => one.id !== part.id);
  return (
    <div className="flex items-center gap-1">
      <Button
        size="icon"
        tone="quiet"
        disabled={index === 0}
        aria-label={`${riff.name} earlier`}
        onClick={() => move(part.id, index - 1)}
      >
        <ArrowUp size={16} aria-hidden />
      </Button>
      <Button
        size="icon"
        tone="quiet"
        disabled={index === part.riffs.length - 1}
        aria-label={`${riff.name} later`}
        onClick={() => move(part.id, index + 1)}
      >
        <ArrowDown size={16} aria-hidden />
      </Button>
      {others.length > 0 ? (
        <select
          aria-label={`Move ${riff.name} to another part`}
          value=""
          onChange={(event) => {
            const to = others.find((one) => one.id === event.target.value);
            if (to) move(to.id, to.riffs.length);
          }}
          className="min-h-8 w-24 rounded-sm border border-rule bg-sheet px-1 text-[14px] text-ink"
        >
          <option value="">Move to…</option>
          {others.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      ) : null}
      <Button
        size="small"
        tone="quiet"
        onClick={() => edit({ type: 'removeRiff', part: part.id, riff: riff.id })}
        aria-label={`Delete ${riff.name}`}
      >
        Delete
      </Button>
    </div>
  );
}
