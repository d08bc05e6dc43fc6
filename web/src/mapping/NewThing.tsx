import { useState, type SubmitEvent } from 'react';
import type { Draft } from './draft';
import { all, idFor, SORT_WORDS, type Sort, type Things } from './things';
import { Acts, Button, Input, Select } from '../ui/kit';

/** What a school can make itself; the rest comes from its systems, or from a file. */
const MADE: Sort[] = ['level', 'tag', 'terms'];

interface Props {
  things: Things;
  draft: Draft;
  onMake: (path: string, to: unknown) => void;
}

export function NewThing({ things, draft, onMake }: Props) {
  const [sort, setSort] = useState<Sort>('level');
  const [title, setTitle] = useState('');
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const name = title.trim();
    if (name === '') return;
    const known = all(things, draft, sort).map((thing) => thing.id);
    const id = idFor(name, (taken) => known.includes(taken));
    onMake(`${sort}/${id}`, { id, title: name, ...(sort === 'terms' && { terms: { length: 'P1Y' } }) });
  };
  return (
    <Acts as="form" className="items-center" onSubmit={submit}>
      <Select aria-label="Make a new" value={sort} onChange={(event) => setSort(event.target.value as Sort)}>
        {MADE.map((one) => (
          <option key={one} value={one}>
            new {SORT_WORDS[one].one}
          </option>
        ))}
      </Select>
      <Input
        className="w-40"
        aria-label="Its name"
        placeholder="its name"
        maxLength={200}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <Button small disabled={title.trim() === ''}>
        Make
      </Button>
    </Acts>
  );
}
