'use client';

import { FromServer } from '@/features/studio/from-server';
import { WeightsPage } from './weights-page';

export const RoutedWeights = () => <FromServer view="weights">{(learnt) => <WeightsPage {...learnt} />}</FromServer>;
