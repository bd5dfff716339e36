import type { Move } from '@/core/command';
import { useSchools } from '@/ui/schools';
import { benchCommands } from './bench-commands';
import { pasteMoved } from './clipboard';
import { KeySheet } from './key-sheet';
import { Palette } from './palette';
import { MovePhrase } from './move-phrase';
import { PasteMoved } from './paste-moved';
import { TapDialog } from './tap';
import type { BenchState } from './use-bench';

/** What opens over the bench: commands, taps, moved pasting, keys. */
export function BenchDialogs({ state }: { readonly state: BenchState }) {
  const { bench, view, focusStrip } = state;
  const schools = useSchools();
  const commands = view.palette !== null || view.help ? benchCommands(bench) : [];
  const paste = async (move: Move): Promise<void> => {
    if (!(await pasteMoved(bench, schools, move))) return;
    view.setPasting(false);
    focusStrip();
  };
  return (
    <>
      <Palette
        desk={bench}
        commands={commands}
        open={view.palette}
        onClose={() => {
          view.setPalette(null);
          setTimeout(focusStrip, 0);
        }}
      />
      <TapDialog desk={bench} open={view.tapping} onClose={() => view.setTapping(false)} />
      <PasteMoved open={view.pasting} onClose={() => view.setPasting(false)} onPaste={(move) => void paste(move)} />
      <MovePhrase desk={bench} open={view.moving} onClose={() => view.setMoving(false)} />
      <KeySheet commands={commands} open={view.help} onOpenChange={view.setHelp} />
    </>
  );
}
