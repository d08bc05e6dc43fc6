import { TextButton } from '../ui/kit';

const KEYS: [keys: string[], does: string, seldom?: true][] = [
  [['↑', '↓', '←', '→'], 'move'],
  [['Space'], 'open or close'],
  [['Enter'], 'terms'],
  [['C', 'V'], 'copy terms, of a range too'],
  [['Ctrl Z'], 'undo'],
  [['Ctrl Y'], 'redo', true],
  [['Shift ↑ ↓ ← →'], 'select more', true],
  [['Shift Space'], 'the whole row', true],
  [['Ctrl Space'], 'the whole column', true],
  [['Ctrl Shift Space'], 'the whole category', true],
  [['Delete'], 'close', true],
  [['/'], 'filter; “level > comb”: rows, then columns', true],
  [['[', ']'], 'another day', true],
];

/** The keys of the grid; those seldom used when they are asked for. */
export function Keys({ all, onHelp }: { all: boolean; onHelp: () => void }) {
  return (
    <p className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-soft">
      {KEYS.filter(([, , seldom]) => all || seldom === undefined).map(([keys, does]) => (
        <span key={does}>
          {keys.map((key) => (
            <kbd key={key}>{key}</kbd>
          ))}{' '}
          {does}
        </span>
      ))}
      <TextButton onClick={onHelp} aria-expanded={all}>
        <kbd>?</kbd> {all ? 'fewer keys' : 'all keys'}
      </TextButton>
    </p>
  );
}
