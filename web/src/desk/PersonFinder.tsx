import { useDeferredValue, useState } from 'react';
import { api } from '../api/client';
import { counted } from '../ui/words';
import { Finder } from '../ui/Finder';

export interface Somebody {
  key: string;
  name: string;
  /** Whether Yoru knows them already. */
  known: boolean;
}

const ADDRESS = /^[^\s@]+@[^\s@.]+(\.[^\s@.]+)+$/;

interface Props {
  label: string;
  onChoose: (person: Somebody) => void;
}

/** Finds a person by name or address; an address that nobody has can be taken as somebody new. */
export function PersonFinder({ label, onChoose }: Props) {
  const [words, setWords] = useState('');
  const asked = useDeferredValue(words.trim());
  const people = api.useQuery(
    'get',
    '/api/people',
    { params: { query: { q: asked, sort: 'NAME' } } },
    { enabled: asked !== '', placeholderData: (previous) => previous },
  );
  const known = (people.data?.people ?? []).slice(0, 8).map((person) => ({
    key: person.key,
    name: person.name,
    known: true,
    more: counted(person.orders, 'order', 'orders'),
  }));
  const isNew = ADDRESS.test(asked) && !known.some((person) => person.key === asked.toLowerCase());
  const found = isNew
    ? [...known, { key: asked.toLowerCase(), name: '', known: false, more: 'somebody new' }]
    : known;
  return (
    <Finder
      label={label}
      placeholder="Name or e-mail address"
      words={words}
      onWords={setWords}
      found={found}
      idOf={(one) => one.key}
      show={(one) => (
        <>
          <strong>{one.name === '' ? one.key : one.name}</strong>{' '}
          <span className="text-soft">
            {one.name === '' || one.name === one.key ? '' : `${one.key} · `}
            {one.more}
          </span>
        </>
      )}
      onChoose={({ key, name, known: isKnown }) => onChoose({ key, name, known: isKnown })}
      nothing={
        people.isFetching ? undefined : 'Nobody is called that. Type a whole e-mail address for somebody new.'
      }
    />
  );
}
