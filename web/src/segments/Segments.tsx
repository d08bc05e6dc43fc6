import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useTouch } from '../api/touch';
import { useState } from 'react';
import { z } from 'zod';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { useMay } from '../session/may';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { ConditionRow } from './ConditionRow';
import { isComplete, type Segment } from './conditions';
import { Runs, TagAll } from './TagAll';
import {
  Acts,
  Button,
  buttonLook,
  Fault,
  Headline,
  Input,
  Margin,
  Panel,
  Row,
  Rows,
  RowWords,
  Screen,
  Select,
  useFields,
  Waiting,
} from '../ui/kit';

const NEW: Segment = { any: false, conditions: [] };

/** Filters over people that are kept under a name, with whom they let through. */
export function Segments() {
  const { segment } = useSearch({ from: '/people/segments' });
  const saved = api.useQuery('get', '/api/segments');
  const chosen = saved.data?.find((one) => one.id === segment);
  if (saved.data === undefined) {
    return (
      <Screen>
        <Headline>
          <h1>Segments</h1>
        </Headline>
        {saved.error === null ? <Waiting what="the segments" /> : <Fault error={saved.error} />}
      </Screen>
    );
  }
  return <Editor key={chosen?.id ?? 0} saved={saved.data} chosen={chosen} />;
}

type Saved = Schemas['ShownSegment'];

function Editor({ saved, chosen }: { saved: Saved[]; chosen: Saved | undefined }) {
  const may = useMay();
  const asOf = useAsOf();
  const [segment, setSegment] = useState(chosen?.segment ?? NEW);
  const complete = segment.conditions.every(isComplete);
  const [settled, still] = useSettled(segment, 300);
  const look = api.useQuery(
    'post',
    '/api/segments/look',
    {
      params: { query: asOf.instant === undefined ? {} : { at: asOf.instant } },
      body: settled,
    },
    {
      enabled: settled.conditions.every(isComplete),
      refetchInterval: asOf.instant === undefined ? 15_000 : false,
      placeholderData: (previous) => previous,
    },
  );
  const found = complete && still && !look.isPlaceholderData ? look.data : undefined;
  const changed = JSON.stringify(segment) !== JSON.stringify(chosen?.segment ?? NEW);
  return (
    <Screen
      margin={
        <Margin label="Who is in it">
          <section>
            <h2>{found === undefined ? 'Who is in it' : counted(found.count, 'person', 'people')}</h2>
            {!complete && <p className="text-soft">Fill the conditions in, and who is in it stands here.</p>}
            {complete && found === undefined && look.error === null && <Waiting what="who is in it" />}
            {look.error !== null && <Fault error={look.error} />}
            {found !== undefined && (
              <>
                {chosen !== undefined && !changed && (
                  <p>
                    <a
                      className={buttonLook({ small: true })}
                      href={`/api/segments/${chosen.id}/people.csv${asOf.instant === undefined ? '' : `?at=${asOf.instant}`}`}
                      download
                    >
                      All of them as CSV
                    </a>
                  </p>
                )}
              </>
            )}
          </section>
          {may.act && found !== undefined && asOf.instant === undefined && (
            <TagAll
              segment={segment}
              title={chosen !== undefined && !changed ? chosen.name : 'a segment that is not kept'}
              count={found.count}
            />
          )}
          <Runs />
        </Margin>
      }
    >
      <Headline>
        <h1>Segments</h1>
        <p>people who belong together</p>
      </Headline>
      <nav
        className="mb-3.5 flex flex-wrap gap-1.5 *:aria-[current=page]:bg-primary *:aria-[current=page]:text-primary-content"
        aria-label="Kept segments"
      >
        {saved.map((one) => (
          <Link
            key={one.id}
            className={buttonLook({ small: true })}
            to="/people/segments"
            search={{ segment: one.id }}
            activeOptions={{ includeSearch: true, exact: true }}
          >
            {one.name}
          </Link>
        ))}
        <Link
          className={buttonLook({ small: true })}
          to="/people/segments"
          search={{}}
          activeOptions={{ includeSearch: true, exact: true }}
        >
          A new one
        </Link>
      </nav>
      <Panel>
        <Acts className="items-center">
          <span>People who meet</span>
          <Select
            aria-label="How many conditions must hold"
            value={segment.any ? 'any' : 'all'}
            onChange={(event) => setSegment({ ...segment, any: event.target.value === 'any' })}
          >
            <option value="all">all of these</option>
            <option value="any">any of these</option>
          </Select>
        </Acts>
        {segment.conditions.length === 0 && (
          <p className="text-soft">No condition yet: everybody who is known is in it.</p>
        )}
        <ol className="grid gap-2.5">
          {segment.conditions.map((condition, at) => (
            <ConditionRow
              key={at}
              condition={condition}
              onChange={(next) => setSegment({ ...segment, conditions: segment.conditions.with(at, next) })}
              onRemove={() =>
                setSegment({ ...segment, conditions: segment.conditions.filter((_, other) => other !== at) })
              }
            />
          ))}
        </ol>
        <Acts>
          <Button
            disabled={segment.conditions.length >= 20}
            onClick={() =>
              setSegment({ ...segment, conditions: [...segment.conditions, { kind: 'HAS', not: false }] })
            }
          >
            Add a condition
          </Button>
        </Acts>
      </Panel>
      {may.act && <Keep segment={segment} chosen={chosen} complete={complete} changed={changed} />}
      {found !== undefined && found.count > 0 && (
        <InIt found={found} acting={may.act && asOf.instant === undefined} />
      )}
    </Screen>
  );
}

/** The first of those who are in it, each with what is most often done. */
function InIt({ found, acting }: { found: Schemas['WhoIsIn']; acting: boolean }) {
  return (
    <section aria-label="The people in it">
      <h2>The people in it</h2>
      <Rows>
        {found.people.map((person) => (
          <Row key={person.id} className="min-h-10 py-1">
            <RowWords>
              <Link to="/people/$id" params={{ id: String(person.id) }}>
                {person.name}
              </Link>
              {person.name !== person.key && <span>{person.key}</span>}
            </RowWords>
            {acting && (
              <Link
                className={buttonLook({ small: true })}
                to="/orders/by-hand"
                search={{ person: person.key }}
              >
                New order
              </Link>
            )}
          </Row>
        ))}
      </Rows>
      {found.count > found.people.length && (
        <p className="text-soft">and {found.count - found.people.length} more; all of them are in the CSV</p>
      )}
    </section>
  );
}

const KEPT = z.object({ name: z.string().trim().min(1).max(100) });

interface KeepProps {
  segment: Segment;
  chosen: Saved | undefined;
  complete: boolean;
  changed: boolean;
}

function Keep({ segment, chosen, complete, changed }: KeepProps) {
  const touch = useTouch();
  const navigate = useNavigate();
  const form = useFields(KEPT, { name: chosen?.name ?? '' });
  const name = form.watch('name');
  const [sure, setSure] = useState(false);
  const settle = { onSettled: () => touch('segments') };
  const save = api.useMutation('post', '/api/segments', settle);
  const change = api.useMutation('put', '/api/segments/{id}', settle);
  const remove = api.useMutation('delete', '/api/segments/{id}', settle);
  const fault = save.error ?? change.error ?? remove.error;
  const submit = form.handleSubmit((kept) => {
    const body = { ...kept, segment };
    if (chosen === undefined) {
      save.mutate(
        { body },
        { onSuccess: (made) => void navigate({ to: '/people/segments', search: { segment: made.id } }) },
      );
    } else {
      change.mutate({ params: { path: { id: chosen.id } }, body });
    }
  });
  return (
    <Acts as="form" className="items-center" onSubmit={(event) => void submit(event)} aria-label="Keep it">
      <Input aria-label="Name of the segment" placeholder="Name" maxLength={100} {...form.tick('name')} />
      <Button
        kind="main"
        disabled={!complete || name.trim() === '' || (!changed && name === chosen?.name) || save.isPending}
      >
        {chosen === undefined ? 'Keep it' : 'Keep the change'}
      </Button>
      {chosen !== undefined &&
        (sure ? (
          <Button
            type="button"
            onClick={() =>
              remove.mutate(
                { params: { path: { id: chosen.id } } },
                { onSuccess: () => void navigate({ to: '/people/segments', search: {} }) },
              )
            }
          >
            Throw “{chosen.name}” away
          </Button>
        ) : (
          <Button type="button" onClick={() => setSure(true)}>
            Throw away …
          </Button>
        ))}
      {fault !== null && <Fault error={fault} />}
    </Acts>
  );
}
