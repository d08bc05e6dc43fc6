import { z } from 'zod';
import type { Draft } from './draft';
import { all, idFor, SORT_WORDS, type Sort, type Things } from './things';
import { Acts, Button, Input, Select, useFields } from '../ui/kit';

/** What a school can make itself; the rest comes from its systems, or from a file. */
const MADE = ['level', 'tag', 'terms'] as const satisfies Sort[];

const NEW = z.object({ sort: z.enum(MADE), title: z.string().trim().min(1).max(200) });

interface Props {
  things: Things;
  draft: Draft;
  onMake: (path: string, to: unknown) => void;
}

export function NewThing({ things, draft, onMake }: Props) {
  const form = useFields<z.infer<typeof NEW>>(NEW, { sort: 'level', title: '' });
  const make = form.handleSubmit(({ sort, title }) => {
    const known = all(things, draft, sort).map((thing) => thing.id);
    const id = idFor(title, (taken) => known.includes(taken));
    onMake(`${sort}/${id}`, { id, title, ...(sort === 'terms' && { terms: { length: 'P1Y' } }) });
  });
  return (
    <Acts as="form" className="items-center" onSubmit={(event) => void make(event)}>
      <Select aria-label="Make a new" {...form.tick('sort')}>
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
        {...form.tick('title')}
      />
      <Button small disabled={form.watch('title').trim() === ''}>
        Make
      </Button>
    </Acts>
  );
}
