'use client';

import { useCallback, useState, type ReactNode } from 'react';
import { preload } from 'react-dom';
import type { ViewAnswer, ViewName, Views } from '@/server/views';
import { useOnPage } from '@/ui/on-page';
import { Opening } from './opening';
import { useStudio } from './studio';
import { askJson, useAsked } from './use-asked';

interface Props<Name extends ViewName> {
  readonly view: Name;
  /** What of it: ids as they stand in the address of the page. */
  readonly of?: Readonly<Record<string, string>>;
  readonly children: (data: Views[Name]) => ReactNode;
}

const GONE = 'This is not here any more, or the address is wrong.';

/** A view is asked for with the studio: it may have been changed in another window. */
const addressOf = (view: ViewName, of: Readonly<Record<string, string>> = {}): string =>
  `/api/views/${view}?${new URLSearchParams({ studio: '', ...of }).toString()}`;

/**
 * A page with what it shows. The page itself is built once and is the same for everyone; it asks for its view when it
 * is opened, and for the studio along with it. What is shown stays while it is asked for anew.
 */
export function FromServer<Name extends ViewName>({ view, of, children }: Props<Name>) {
  const onPage = useOnPage();
  const { studio, setStudio, round } = useStudio();
  const [data, setData] = useState<Views[Name] | null>(null);
  const [at, setAt] = useState(-1);
  const address = addressOf(view, of);
  // Built pages say what they will ask for, so that it is on its way before their program is.
  if (!onPage && !of) preload(address, { as: 'fetch', crossOrigin: 'anonymous' });
  const ask = useCallback((signal: AbortSignal) => askJson<ViewAnswer<Name>>(address, GONE, signal), [address]);
  const take = useCallback(
    (answer: ViewAnswer<Name>) => {
      if (answer.studio) setStudio(answer.studio);
      setData(answer.data);
      setAt(round);
    },
    [setStudio, round],
  );
  const { fault, again } = useAsked(onPage && at !== round ? ask : null, take);
  // A page of the studio alone shows what is known of it while it is asked for anew.
  const shown = data ?? (view === 'studio' ? ({} as Views[Name]) : null);
  if (onPage && studio && shown) return children(shown);
  return <Opening fault={fault} onAgain={again} />;
}
