import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { ADULT_HAND, sizedHand } from '@/core/hand';
import { DEFAULT_SCHOOLS, type Schools } from '@/core/schools';
import type { Player } from '@/core/score';
import { StudioProvider } from '@/features/studio/studio';
import { SchoolsProvider } from '@/ui/schools';
import { ToastProvider } from '@/ui/toast';
import { ArchivePage } from './archive-page';
import { HandsPage } from './hands-page';
import { HandsProvider } from './players-context';
import { SettingsPage } from './settings-page';
import { WeightsPage } from './weights-page';
import { textOf } from '@/ui/test-support/text';

/** The settings as they are drawn: each shows what it does. */
vi.mock('next/navigation', () => ({ useRouter: () => ({ push: vi.fn() }), usePathname: () => '/settings' }));
vi.mock('@/server/context', () => ({ db: vi.fn(), currentActor: vi.fn() }));

const drawn = (page: ReactNode, schools: Partial<Schools> = {}, players: readonly Player[] = []): string =>
  renderToStaticMarkup(
    <StudioProvider>
      <ToastProvider>
        <SchoolsProvider schools={{ ...DEFAULT_SCHOOLS, ...schools }} setSchools={vi.fn()}>
          <HandsProvider players={players} tables={[]}>
            {page}
          </HandsProvider>
        </SchoolsProvider>
      </ToastProvider>
    </StudioProvider>,
  );
const said = (...given: Parameters<typeof drawn>): string => textOf(drawn(...given));

describe('schools', () => {
  it('show on their example what they do', () => {
    const of = (schools: Partial<Schools>) => said(<SettingsPage />, schools);
    const usual = of({});
    const changes: readonly Partial<Schools>[] = [
      ...([{ notes: 'german' }, { notes: 'solfege' }, { strings: 'numbers' }, { strings: 'sounding' }] as const),
      ...([
        { retuned: 'sounding' },
        { keys: 'sound' },
        { first: 'sound' },
        { frets: 'nut' },
        { picking: 'down' },
      ] as const),
    ];
    for (const change of changes) expect(of(change), JSON.stringify(change)).not.toBe(usual);
    expect(drawn(<SettingsPage />, { handed: 'left' })).not.toBe(drawn(<SettingsPage />));
    expect(drawn(<SettingsPage />, { a4: 442 })).toContain('value="442"');
  });
});

describe('hands', () => {
  const ada: Player = { id: 'h1', name: 'Ada', profile: { ...sizedHand(0.88), level: 'beginner' } };
  it('are listed with what they reach; only those of the studio can be changed', () => {
    const page = drawn(<HandsPage />, {}, [ada]);
    expect(textOf(page)).toContain('Ada');
    expect(page).toContain('aria-label="Change Ada"');
    expect(page).not.toContain('aria-label="Change Adult hand"');
    expect(textOf(page)).toContain(`${ADULT_HAND.comfortable['14']} mm at ease`);
    expect(textOf(page)).toContain('see a clinician if it lasts');
  });
});

describe('weights', () => {
  it('say how many choices they could be learnt from', () => {
    const of = (phrases: number, notes: number) => said(<WeightsPage counts={{ phrases, notes }} fit={null} />);
    expect(of(1, 4)).toContain('4 notes in 1 phrase so far');
    expect(of(12, 80)).toContain('80 notes in 12 phrases so far');
    expect(of(0, 0)).toContain('Look for my weights');
  });
});

describe('the archive', () => {
  it('is made by one press, and put back from a file that is chosen', () => {
    const page = drawn(<ArchivePage />);
    expect(page).toContain('href="/api/archive"');
    expect(textOf(page)).toContain('Put an archive back');
  });
});
