import { RoutedForm } from '@/features/form/routed';

export default function Page() {
  return <RoutedForm />;
}
