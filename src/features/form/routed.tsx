'use client';

import { useSearchParams } from 'next/navigation';
import { FormPage } from './form-page';

/** The form as its address asks: at a section, from a bar. */
export function RoutedForm() {
  const search = useSearchParams();
  const bar = Number(search.get('bar'));
  return <FormPage start={{ section: search.get('section'), bar: Number.isInteger(bar) && bar > 0 ? bar : null }} />;
}
