'use client';

import { Toast as Radix } from 'radix-ui';
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';

interface Message {
  readonly id: number;
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

type Say = (text: string, action?: Message['action']) => void;

const Context = createContext<Say>(() => undefined);

/** Says something in passing, with one thing that can be done about it (undo). */
export const useToast = (): Say => useContext(Context);

export function ToastProvider({ children }: { readonly children: ReactNode }) {
  const [messages, setMessages] = useState<readonly Message[]>([]);
  const say = useCallback<Say>((text, action) => {
    setMessages((list) => [...list.slice(-2), { id: (list.at(-1)?.id ?? 0) + 1, text, ...(action ? { action } : {}) }]);
  }, []);
  const value = useMemo(() => say, [say]);
  return (
    <Context.Provider value={value}>
      <Radix.Provider duration={9000} swipeDirection="down" label="Notice">
        {children}
        {messages.map((one) => (
          <Radix.Root
            key={one.id}
            className="flex items-center gap-4 rounded-sm border border-line bg-ink px-4 py-3 text-paper shadow-lg"
            onOpenChange={(open) => {
              if (!open) setMessages((all) => all.filter((other) => other.id !== one.id));
            }}
          >
            <Radix.Description>{one.text}</Radix.Description>
            {one.action ? (
              <Radix.Action
                altText={one.action.label}
                onClick={one.action.run}
                className="rounded-sm border border-paper/60 px-2.5 py-1 font-semibold hover:bg-paper/10"
              >
                {one.action.label}
              </Radix.Action>
            ) : null}
          </Radix.Root>
        ))}
        <Radix.Viewport className="no-print fixed bottom-20 left-1/2 z-50 flex w-max max-w-[92vw] -translate-x-1/2 flex-col gap-2" />
      </Radix.Provider>
    </Context.Provider>
  );
}
