import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';
import type { ClipKeeper } from './clip-keeper';

const clock = (at: number): string =>
  new Date(at).toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' });

/** Says that another window's save is shown, and what can be done with what was laid here. */
export function GaveWay({ at, keeper }: { readonly at: number; readonly keeper: ClipKeeper }) {
  const toast = useToast();
  return (
    <div
      role="status"
      className="flex items-center gap-3 border-l-4 border-trouble bg-trouble-wash px-3 py-1.5 text-[15px]"
    >
      <p>
        Another window laid something else on this recording: it is shown. What was laid here ({clock(at)}) is held on
        this device.
      </p>
      <Button size="small" className="ml-auto" onClick={() => void keeper.use()}>
        Use mine
      </Button>
      <Button
        tone="word"
        size="small"
        onClick={() => {
          const gone = keeper.drop();
          if (gone) toast('It was let go.', { label: 'Undo', run: () => keeper.putBack(gone) });
        }}
      >
        Let it go
      </Button>
    </div>
  );
}
