'use client';

import { useSearchParams } from 'next/navigation';
import { CheckPage } from './check-page';

/** The check as its address asks: what adds up wrongly, or what was never said. */
export const RoutedCheck = () => <CheckPage start={useSearchParams().get('show') === 'unsaid' ? 'unsaid' : 'open'} />;
