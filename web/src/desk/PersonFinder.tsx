import { useDeferredValue, useState } from 'react';
import { api } from '../api/client';
import { counted } from '../ui/words';
import { Finder } from '../ui/Finder';
import { matches } from './offer';
import { somebodyNew, type Somebody } from './somebody';

interface Props {
  label: string;
  onChoose: (person: Somebody) => void;
}

/** Finds a person by name or address; an address that nobody has can be taken as somebody new. */
export function PersonFinder({ label, onChoose }: Props) {
  const [words, setWords] = useState('');
  const typed = words.trim();
  const asked = useDeferredValue(typed);
  const people = api.useQuery(
    'get',
    '/api/people',
    { params: { query: { q: asked, sort: 'NAME' } } },
    { enabled: asked !== '', placeholderData: (previous) => previous },
  );
  const answered = typed === asked && people.data !== undefined && !people.isPlaceholderData;
  // what was found for other words is offered only as far as it fits these: Enter would choose it
  const known = (people.data?.people ?? [])
    .filter((person) => answered || matches(typed, person.name, person.key))
    .slice(0, 8)
    .map((person) => ({
      key: person.key,
      name: person.name,
      known: true,
      more: counted(person.orders, 'order', 'orders'),
    }));
  const stranger = answered ? somebodyNew(typed) : undefined;
  const found =
    stranger === undefined || known.some((person) => person.key === stranger.key)
      ? known
      : [...known, { ...stranger, more: 'somebody new' }];
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
