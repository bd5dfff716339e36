import { counted } from '@/core/base';
import { useRefresh } from '@/features/studio/studio';
import { useToast } from '@/ui/toast';
import { importRackAction } from './actions';

/** Brings in a rack file and says what came; the fault's words where none did. */
export function useRackFile(): (file: File) => Promise<string | null> {
  const refresh = useRefresh();
  const toast = useToast();
  return async (file) => {
    const read = await importRackAction(await file.text());
    if (!read.ok) return `${file.name}: ${read.error.words}`;
    const { instruments, tunings, questions } = read.value;
    const look = questions.length > 0 ? ` Please look at: ${questions.join(' ')}` : '';
    toast(`Brought in ${counted(instruments, 'instrument')} and ${counted(tunings, 'tuning')}.${look}`);
    refresh();
    return null;
  };
}
