'use server';

import { revalidatePath } from 'next/cache';
import { schoolsSchema, type Schools } from '@/core/schools';
import { currentStudio, db } from '@/server/context';
import { putSchools } from '@/server/repositories/rack';

/** Keeps the instructor's schools; gives them as they are kept, or null where a value is none. */
export async function saveSchoolsAction(schools: Schools): Promise<Schools | null> {
  const parsed = schoolsSchema.safeParse(schools);
  if (!parsed.success) return null;
  await putSchools(db(), currentStudio(), parsed.data);
  revalidatePath('/', 'layout');
  return parsed.data;
}
