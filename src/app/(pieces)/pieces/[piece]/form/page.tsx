import { FormPage } from '@/features/form/form-page';

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function PieceFormPage({ searchParams }: Props) {
  const search = await searchParams;
  const bar = Number(search.bar);
  return (
    <FormPage
      start={{
        section: typeof search.section === 'string' ? search.section : null,
        bar: Number.isInteger(bar) && bar > 0 ? bar : null,
      }}
    />
  );
}
