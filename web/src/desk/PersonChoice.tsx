import { PersonFinder } from './PersonFinder';
import type { Somebody } from './somebody';
import { TextButton } from '../ui/kit';

interface Props {
  label: string;
  person: Somebody | undefined;
  onChoose: (person: Somebody | undefined) => void;
  /** The words that let one choose again. */
  again?: string;
}

/** Finds a person, and shows who was found. */
export function PersonChoice({ label, person, onChoose, again = 'somebody else' }: Props) {
  if (person === undefined) return <PersonFinder label={label} onChoose={onChoose} />;
  return (
    <p className="rounded-field border border-line px-3 py-1.5 wrap-anywhere">
      <strong>{person.known ? person.name : person.key}</strong>{' '}
      <span className="text-soft">{person.known ? person.key : 'somebody new'}</span>{' '}
      <TextButton type="button" onClick={() => onChoose(undefined)}>
        {again}
      </TextButton>
    </p>
  );
}
