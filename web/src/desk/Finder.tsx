import { useId, useState, type ReactNode } from 'react';

interface Props<T> {
  label: string;
  placeholder: string;
  words: string;
  onWords: (words: string) => void;
  found: T[];
  idOf: (one: T) => string;
  show: (one: T) => ReactNode;
  onChoose: (one: T) => void;
  /** What to say where nothing is found. */
  nothing?: ReactNode;
}

/** Type a few letters, choose one: with arrows and Enter, or the mouse. */
export function Finder<T>({
  label,
  placeholder,
  words,
  onWords,
  found,
  idOf,
  show,
  onChoose,
  nothing,
}: Props<T>) {
  const id = useId();
  const [at, setAt] = useState(0);
  const here = Math.min(at, found.length - 1);
  const open = words.trim() !== '';
  const choose = (one: T | undefined) => {
    if (one === undefined) return;
    onChoose(one);
    onWords('');
    setAt(0);
  };
  return (
    <div className="finder">
      <input
        type="search"
        role="combobox"
        className="input"
        aria-label={label}
        aria-expanded={open && found.length > 0}
        aria-controls={`${id}-found`}
        aria-autocomplete="list"
        aria-activedescendant={open && found.length > 0 ? `${id}-${here}` : undefined}
        placeholder={placeholder}
        autoComplete="off"
        value={words}
        onChange={(event) => {
          onWords(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(here + 1, found.length - 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(here - 1, 0));
          else if (event.key === 'Enter' && open) choose(found[here]);
          else if (event.key === 'Escape') onWords('');
          else return;
          event.preventDefault();
        }}
      />
      {open && (
        <ul id={`${id}-found`} role="listbox" aria-label={label} className="found">
          {found.map((one, n) => (
            <li
              key={idOf(one)}
              id={`${id}-${n}`}
              role="option"
              aria-selected={n === here}
              onMouseDown={(event) => {
                event.preventDefault();
                choose(one);
              }}
              onMouseEnter={() => setAt(n)}
            >
              {show(one)}
            </li>
          ))}
        </ul>
      )}
      {open && found.length === 0 && nothing !== undefined && <div className="soft">{nothing}</div>}
    </div>
  );
}
