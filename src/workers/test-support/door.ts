import { vi } from 'vitest';

/**
 * The door of a worker without its thread: a worker file hands its door to `expose`, which here keeps it. What is
 * given and what comes back is copied as it would be on its way, so that nothing passes that a thread could not pass.
 * To be used with `vi.mock('comlink', ...)` of `comlinkStandIn`.
 */
let last: unknown = null;

export const comlinkStandIn = () => ({
  expose: (door: unknown): void => {
    last = door;
  },
  transfer: <T>(value: T): T => value,
  proxy: <T>(value: T): T => value,
});

type Posted<Door> = {
  [Name in keyof Door]: Door[Name] extends (...args: infer Args) => infer Answer
    ? (...args: Args) => Promise<Awaited<Answer>>
    : never;
};

/** Opens the door that loading a worker file gives. */
export async function openDoor<Door extends object>(load: () => Promise<unknown>): Promise<Posted<Door>> {
  vi.resetModules();
  await load();
  const door = last as Record<string, (...args: unknown[]) => unknown>;
  const copied = (value: unknown): unknown => (typeof value === 'function' ? value : structuredClone(value));
  return Object.fromEntries(
    Object.entries(door).map(([name, does]) => [
      name,
      async (...args: unknown[]) => copied(await does(...args.map(copied))),
    ]),
  ) as unknown as Posted<Door>;
}
