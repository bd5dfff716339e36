import { RoutedInstrument } from '@/features/rack/routed';
import { ANY } from '@/server/shell';

/** One page is built for all: `SHELLS` leads every address of its kind to it. */
export const dynamicParams = false;
export const generateStaticParams = (): { instrument: string }[] => [{ instrument: ANY }];

export default function Page() {
  return <RoutedInstrument />;
}
