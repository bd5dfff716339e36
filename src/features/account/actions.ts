'use server';

import { z } from 'zod';
import { schoolsSchema, type Schools } from '@/core/schools';
import { action } from '@/server/action';
import { putSchools } from '@/server/repositories/rack';

/** Keeps the instructor's schools; gives them as they are kept, or null where a value is none. */
export const saveSchoolsAction = action(
  'write',
  z.tuple([schoolsSchema]),
  async ({ actor, db }, schools): Promise<Schools | null> => {
    await putSchools(db, actor, schools);
    return schools;
  },
  () => null,
);
