'use client';

import { Minus, PanelRightClose, PanelRightOpen, Plus } from 'lucide-react';
import { Button } from '@/ui/button';

/** Bars a row of the strip may hold, from close to far; null leaves it to what is legible. */
export const ZOOMS: readonly (number | null)[] = [1, 2, null, 3, 4, 6, 8];

/** The next closer (-1) or wider (1) choice. */
export function zoomed(now: number | null, by: 1 | -1): number | null {
  const at = ZOOMS.indexOf(now);
  return ZOOMS[Math.max(0, Math.min(ZOOMS.length - 1, at + by))] ?? null;
}

/** How many bars stand in a row, and whether the reasons beside the strip are shown. */
export function ZoomSwitch({
  perRow,
  onZoom,
  wide,
  onWide,
  neck,
  onNeck,
  narrow,
}: {
  readonly perRow: number | null;
  readonly onZoom: (perRow: number | null) => void;
  readonly wide: boolean;
  readonly onWide: (wide: boolean) => void;
  readonly neck: boolean;
  readonly onNeck: (neck: boolean) => void;
  /** Neck and reasons are chosen elsewhere. */
  readonly narrow: boolean;
}) {
  return (
    <div role="group" aria-label="Bars in a row" className="ml-auto flex shrink-0 items-center">
      <Button
        tone="quiet"
        size="icon"
        aria-label="Fewer bars in a row"
        title="Fewer bars in a row (Z)"
        onClick={() => onZoom(zoomed(perRow, -1))}
      >
        <Plus size={16} aria-hidden />
      </Button>
      <span className="w-13 text-center text-[15px] whitespace-nowrap" aria-live="polite">
        {perRow === null ? 'bars fit' : perRow === 1 ? '1 bar' : `${perRow} bars`}
      </span>
      <Button
        tone="quiet"
        size="icon"
        aria-label="More bars in a row"
        title="More bars in a row (Shift Z)"
        onClick={() => onZoom(zoomed(perRow, 1))}
      >
        <Minus size={16} aria-hidden />
      </Button>
      {narrow ? null : (
        <>
          <Button
            tone="quiet"
            size="small"
            aria-pressed={neck}
            onClick={() => onNeck(!neck)}
            className="whitespace-nowrap"
          >
            {neck ? 'Hide neck' : 'Show neck'}
          </Button>
          <Button
            tone="quiet"
            size="icon"
            aria-label={wide ? 'Show the reasons' : 'Hide the reasons'}
            aria-pressed={wide}
            title={wide ? 'Show the reasons (Shift W)' : 'Give the strip the whole width (Shift W)'}
            onClick={() => onWide(!wide)}
          >
            {wide ? <PanelRightOpen size={18} aria-hidden /> : <PanelRightClose size={18} aria-hidden />}
          </Button>
        </>
      )}
    </div>
  );
}
