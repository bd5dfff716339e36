import type { ChordUnder } from '@/core/harmony';
import type { TempoStep } from '@/core/time';
import { Transport } from '@/features/hear/transport';
import { Later } from '@/ui/later';
import { useToast } from '@/ui/toast';
import { writeCalls } from './bench-calls';
import { stretchOf } from './bench-parts';
import { CallLine } from './call-line';
import { LaneSwitch } from './lane-switch';
import { PanelSwitch } from './panel-switch';
import { PlayIn } from './play-in';
import type { BenchState } from './use-bench';
import { ZoomSwitch } from './zoom';

interface Props {
  readonly state: BenchState;
  readonly tempo: readonly TempoStep[];
  readonly chordsSaid: readonly ChordUnder[] | undefined;
  readonly beats: number;
  readonly onNote: (midi: number) => void;
}

/** Under the strip: the player, what is shown, and the call line with the bench's tools. */
export function BenchFoot({ state, tempo, chordsSaid, beats, onNote }: Props) {
  const { bench, view, transport, calls, focusStrip, playIn } = state;
  const { piece, part, riff, chosen, actions } = bench;
  const toast = useToast();
  const note = chosen.focus?.notes[chosen.noteIndex];
  const stretch = stretchOf(riff, chosen.events);
  const tools = [
    ['Tap', actions.tap],
    ['Commands', () => actions.palette('')],
    ['Keys', actions.help],
  ] as const;
  const player = (
    <Transport
      ref={transport}
      {...{ riff, piece, tempo, beats, chordsSaid }}
      {...stretch}
      setup={part.setup}
      partId={part.id}
      onFault={toast}
      onPlaying={view.setPlaying}
    />
  );
  const lanes = <LaneSwitch lanes={view.lanes} onChange={view.setLanes} />;
  const zoom = (
    <ZoomSwitch
      perRow={view.perRow}
      onZoom={view.setPerRow}
      wide={view.wide}
      onWide={view.setWide}
      neck={view.neck}
      onNeck={view.setNeck}
      narrow={view.narrow}
    />
  );
  const callLine = (
    <CallLine
      ref={calls}
      riff={riff}
      setup={part.setup}
      insertAt={chosen.insertAt}
      string={note?.place?.string ?? null}
      chosen={chosen.events}
      onCall={(...called) => writeCalls(bench, ...called)}
      onTarget={view.setTarget}
      onLeave={focusStrip}
      tools={
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
          <PlayIn
            on={view.playIn}
            onSwitch={playIn}
            length={view.playLength}
            onLength={view.setPlayLength}
            onNote={onNote}
          />
          {tools.map(([name, run]) => (
            <button key={name} type="button" onClick={run} className="underline decoration-line underline-offset-4">
              {name}
            </button>
          ))}
        </div>
      }
    />
  );
  if (view.narrow)
    return (
      <Later>
        <div className="flex flex-col gap-1.5">
          {view.panel === 'calls' ? callLine : null}
          {view.panel === 'shown' ? (
            <section aria-label="Shown" className="flex flex-wrap items-center gap-2">
              {lanes}
              {zoom}
            </section>
          ) : null}
          <section aria-label="Listen">{player}</section>
          <PanelSwitch panel={view.panel} onPanel={view.setPanel} />
        </div>
      </Later>
    );
  return (
    <Later>
      <div className="flex flex-col gap-1.5 pb-2">
        <section aria-label="Listen" className="flex items-center gap-x-3">
          {player}
          {lanes}
          {zoom}
        </section>
        {callLine}
      </div>
    </Later>
  );
}
