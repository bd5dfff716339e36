import { INSTRUMENTS } from '@/core/instrument';
import { useRack } from './rack-context';

/** Instruments to choose from: the studio's own before the catalogue. */
export function InstrumentOptions() {
  const { instruments } = useRack();
  return (
    <>
      {instruments.length > 0 ? (
        <optgroup label="Yours">
          {instruments.map(({ instrument }) => (
            <option key={instrument.id} value={instrument.id}>
              {instrument.name}
            </option>
          ))}
        </optgroup>
      ) : null}
      <optgroup label="Catalogue">
        {INSTRUMENTS.map((instrument) => (
          <option key={instrument.id} value={instrument.id}>
            {instrument.name}
          </option>
        ))}
      </optgroup>
    </>
  );
}
