import { Dialog } from '@/ui/dialog';
import type { Command } from './commands';

const NAMES: Readonly<Record<string, string>> = {
  ' ': 'Space',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  '-': '−',
};

/** Why a letter is not the first one might expect. */
const WHY: Readonly<Record<string, string>> = {
  Length: 'N for a half note: H hammers on. Q is the quarter, W the whole.',
  Join: 'G glides: S is the sixteenth.',
};

/** A key as it stands on the keyboard: "Shift W", "Alt ↑". */
export const keyLabel = (key: string): string =>
  (key === '+' ? ['+'] : key.split('+'))
    .map((part) => NAMES[part] ?? (/^[a-z]$/.test(part) ? part.toUpperCase() : part))
    .join(' ');

/** Every key of the bench, out of the list of commands. */
export function KeySheet({
  commands,
  open,
  onOpenChange,
}: {
  readonly commands: readonly Command[];
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
}) {
  const keyed = commands.filter((command) => command.key);
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys at the bench" wide>
      <div className="columns-1 gap-8 sm:columns-2">
        {[...new Set(keyed.map((command) => command.group))].map((group) => (
          <section key={group} className="mb-4 break-inside-avoid">
            <h3 className="text-lg">{group}</h3>
            <dl className="mt-1 grid grid-cols-[6.5rem_1fr] gap-y-1 text-[15px]">
              {group === 'Place' ? <Row label="0–9" what="Fret on this string, locked" /> : null}
              {keyed
                .filter((command) => command.group === group)
                .map((command) => (
                  <Row key={command.id} label={keyLabel(command.key ?? '')} what={command.name} />
                ))}
            </dl>
            {WHY[group] ? <p className="mt-1 text-[14px] text-soft">{WHY[group]}</p> : null}
          </section>
        ))}
      </div>
    </Dialog>
  );
}

function Row({ label, what }: { readonly label: string; readonly what: string }) {
  return (
    <div className="contents">
      <dt className="font-figures font-bold">{label}</dt>
      <dd>{what}</dd>
    </div>
  );
}
