import { useEffect, useId, useState } from 'react';
import { choosePieceAction } from './actions';

interface Choice {
  readonly id: string;
  readonly title: string;
}

/** A piece of the shelf chosen by typing some of its title. */
export function PieceChoice({
  label,
  without,
  onChoose,
}: {
  readonly label: string;
  /** The piece that can't be chosen. */
  readonly without: string;
  readonly onChoose: (choice: Choice | null) => void;
}) {
  const id = useId();
  const [text, setText] = useState('');
  const [list, setList] = useState<readonly Choice[]>([]);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      () =>
        void choosePieceAction(text.trim())
          .then((found) => {
            if (current) setList(found.filter((one) => one.id !== without));
          })
          .catch(() => undefined),
      150,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [text, without]);
  return (
    <div className="flex flex-col gap-0.5">
      <label htmlFor={id} className="text-sm font-semibold text-soft">
        {label}
      </label>
      <input
        id={id}
        list={`${id}-list`}
        value={text}
        maxLength={160}
        placeholder="its title"
        className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px] placeholder:text-soft"
        onChange={(event) => {
          setText(event.target.value);
          onChoose(list.find((one) => one.title === event.target.value) ?? null);
        }}
      />
      <datalist id={`${id}-list`}>
        {list.map((one) => (
          <option key={one.id} value={one.title} />
        ))}
      </datalist>
    </div>
  );
}
