import { useEffect, useState } from 'react';
import { Input } from './inputs';

const SETTLED_MS = 150;

interface Props {
  label: string;
  placeholder: string;
  value: string;
  /** Called once typing has paused. */
  onChange: (words: string) => void;
}

export function SearchField({ label, placeholder, value, onChange }: Props) {
  const [words, setWords] = useState(value);
  const [sent, setSent] = useState(value);
  const [seen, setSeen] = useState(value);
  if (value !== seen) {
    setSeen(value);
    // changed from outside, by a link or the way back, not by what was typed here
    if (value !== sent) setWords(value);
    setSent(value);
  }
  useEffect(() => {
    if (words === sent) return;
    const settled = setTimeout(() => {
      setSent(words);
      onChange(words);
    }, SETTLED_MS);
    return () => clearTimeout(settled);
  }, [words, sent, onChange]);
  // at once when something else is turned to: a search that comes late would take away where a link has led
  const leave = () => {
    if (words === sent) return;
    setSent(words);
    onChange(words);
  };
  return (
    <Input
      type="search"
      className="w-60 max-w-full"
      aria-label={label}
      placeholder={placeholder}
      value={words}
      onChange={(event) => setWords(event.target.value)}
      onBlur={leave}
    />
  );
}
