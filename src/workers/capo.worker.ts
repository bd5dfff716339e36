import { expose } from 'comlink';
import type { Result } from '@/core/base';
import { planCapo, type CapoChoice, type CapoRequest } from '@/core/harmony';

/** The door to the capo planner. */
const door = {
  plan: (request: CapoRequest): Result<CapoChoice[]> => planCapo(request),
};

export type CapoDoor = typeof door;
expose(door);
