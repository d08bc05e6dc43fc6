import { useState } from 'react';
import type { Schemas } from '../api/client';
import { Finder } from '../ui/Finder';
import { matches, useOffer } from './offer';

interface Props {
  label: string;
  placeholder: string;
  onChoose: (target: Schemas['OfferedTarget']) => void;
}

const MOST = 8;

/** Finds something that can be open: a course, an area, a tag. */
export function TargetFinder({ label, placeholder, onChoose }: Props) {
  const offer = useOffer();
  const [words, setWords] = useState('');
  return (
    <Finder
      label={label}
      placeholder={placeholder}
      words={words}
      onWords={setWords}
      found={(offer?.targets ?? [])
        .filter((target) => matches(words, target.title, target.sort))
        .slice(0, MOST)}
      idOf={(target) => target.target}
      show={(target) => (
        <>
          <strong>{target.title}</strong> <span className="text-soft">{target.sort}</span>
        </>
      )}
      onChoose={onChoose}
      nothing="Nothing is called that."
    />
  );
}
