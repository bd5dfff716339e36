import fc from 'fast-check';
import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { formArbitrary } from '@/core/form/test-support/arbitrary';
import type { Piece } from '@/core/score';
import { buildDemoPiece } from '@/server/demo';
import { ToastProvider } from '@/ui/toast';
import { DEMO_PIECES } from '../../demo/pieces';
import { StudioProvider } from './studio/studio';

/** Every page of a piece as it is first drawn: of the demo's pieces, and of any piece whatever. */
vi.mock('next/navigation', () => ({
  useRouter: () => ({ push: vi.fn(), replace: vi.fn() }),
  usePathname: () => '/pieces/p/riffs/r0',
  useSearchParams: () => new URLSearchParams(),
}));
vi.mock('@/server/context', () => ({ db: vi.fn(), currentActor: vi.fn() }));
vi.mock('@/ui/use-width', () => ({ useWidth: () => [() => undefined, 900] }));

beforeAll(() => {
  vi.stubGlobal('window', globalThis);
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined });
  vi.stubGlobal('navigator', { locks: { request: () => new Promise(() => undefined), query: () => ({}) } });
});
afterAll(() => vi.unstubAllGlobals());

const provider = await import('./piece/provider');
const { CheckPage } = await import('./check/check-page');
const { FormPage } = await import('./form/form-page');
const { Bench } = await import('./place/bench');
const { CarryPage } = await import('./setup/carry-page');
const { FindSetupPage } = await import('./setup/find-page');
const { PlacesPage } = await import('./setup/places-page');
const { RetunePage } = await import('./setup/retune-page');
const { SetupPage } = await import('./setup/setup-page');
const { PieceSheetPage } = await import('./teach/piece-sheet-page');
const { SheetPage } = await import('./teach/sheet-page');
const { TogetherPage } = await import('./together/together-page');

function draw(piece: Piece, page: ReactNode): string {
  const session = new provider.Session({ document: piece, revision: 0, last: null, asked: null });
  return renderToStaticMarkup(
    <StudioProvider>
      <ToastProvider>
        <provider.PieceProvider session={session}>{page}</provider.PieceProvider>
      </ToastProvider>
    </StudioProvider>,
  );
}
const PAGES: Readonly<Record<string, (piece: Piece, riff: string, part: string) => ReactNode>> = {
  bench: (_, riff) => (
    <Bench riffId={riff} startBar={null} startNote={null} use={null} variant={null} startTab="note" />
  ),
  form: () => <FormPage start={{ section: null, bar: null }} />,
  check: () => <CheckPage start="open" />,
  'sheet of the riff': (_, riff) => <SheetPage riffId={riff} />,
  'sheet of the piece': () => <PieceSheetPage />,
  together: () => <TogetherPage />,
  'set-up': (_, __, part) => <SetupPage partId={part} asked={{ tuning: null, instrument: null }} />,
  find: (_, __, part) => <FindSetupPage partId={part} start={{ riff: null, bars: null }} />,
  carry: (_, __, part) => <CarryPage partId={part} />,
  places: (_, __, part) => <PlacesPage partId={part} />,
  retune: (_, __, part) => <RetunePage partId={part} />,
};
const first = (piece: Piece) => ({
  riff: piece.parts.flatMap((part) => part.riffs)[0]?.id ?? 'none',
  part: piece.parts[0]?.id ?? 'none',
});

describe.each(Object.entries(PAGES))('the page %s', (_, page) => {
  it('is drawn for every piece of the demo', () => {
    for (const demo of DEMO_PIECES) {
      const piece = must(buildDemoPiece(demo));
      for (const part of piece.parts)
        for (const riff of part.riffs.slice(0, 2)) {
          const html = draw(piece, page(piece, riff.id, part.id));
          expect(html, demo.title).toContain(demo.title.replaceAll("'", '&#x27;'));
          expect(html, demo.title).not.toMatch(/\b(?:undefined|NaN|\[object)/);
        }
    }
  });

  it('is drawn for any piece, and says so where what it is about is gone', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        const { riff, part } = first(piece);
        expect(draw(piece, page(piece, riff, part))).not.toMatch(/\b(?:undefined|NaN|\[object)/);
        expect(draw(piece, page(piece, 'gone', 'gone')).length).toBeGreaterThan(200);
      }),
      { numRuns: 15 },
    );
  });
});
