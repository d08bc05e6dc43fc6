import { PersonFinder, type Somebody } from './PersonFinder';

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
    <p className="chosen">
      <strong>{person.known ? person.name : person.key}</strong>{' '}
      <span className="soft">{person.known ? person.key : 'somebody new'}</span>{' '}
      <button type="button" className="link" onClick={() => onChoose(undefined)}>
        {again}
      </button>
    </p>
  );
}
