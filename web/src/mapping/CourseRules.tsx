import { api, type Schemas } from '../api/client';
import { counted } from '../ui/words';
import { asDraft, cellKey, type ThingEdit } from './draft';
import type { Shared } from './DraftMargin';
import { Rows } from './inputs';
import { drafted, lookup, type Course, type Section } from './things';
import { Acts, Button, Check, Checkbox, Fault, Panel } from '../ui/kit';

type Props = Omit<Shared, 'headline'> & {
  course: Course;
  /** As its classroom lists them. */
  listed: Schemas['Section'][];
  put: (to: unknown) => void;
};

/** What the school says of a course, whatever classroom teaches it. */
export function CourseRules(props: Props) {
  const { course, listed, put, things, draft } = props;
  const tiers = (drafted(things, draft)('school/tiers') ?? []) as string[];
  const missing = listed.filter((one) => course.sections?.some(({ id }) => id === one.id) !== true);
  return (
    <Panel>
      <Check>
        <Checkbox
          checked={course.premium === true}
          onChange={(event) => put({ ...course, premium: event.target.checked })}
        />
        It takes a premium place where a level lets courses be chosen
      </Check>
      <Rows
        legend="Sections in the mapping"
        addWords="Add a section"
        rows={course.sections ?? []}
        tiers={tiers}
        onChange={(sections) => put({ ...course, sections })}
      />
      {missing.length > 0 && <BringIn {...props} tiers={tiers} missing={missing} />}
      <MakeTags {...props} course={course.id} />
    </Panel>
  );
}

/** Takes over the sections of the classroom, with tiers that the school does not have yet. */
function BringIn({
  course,
  missing,
  tiers,
  things,
  draft,
  now,
  grid,
  change,
}: Props & { tiers: string[]; missing: Schemas['Section'][] }) {
  const fresh = [...new Set(missing.map((one) => one.tier))].filter((tier) => !tiers.includes(tier));
  const bring = () => {
    const sections: Section[] = [
      ...(course.sections ?? []),
      ...missing.map(({ id, title, tier }) => ({ id, title, tier })),
    ];
    const was = lookup(things);
    const path = `course/${course.id}`;
    change({
      act: 'set',
      things: [
        [path, { ...course, sections }, was(path)],
        ...(fresh.length > 0
          ? [['school/tiers', [...tiers, ...fresh], was('school/tiers')] as ThingEdit]
          : []),
      ],
      published: now,
      version: grid.version,
    });
  };
  return (
    <p>
      The classroom lists {counted(missing.length, 'section', 'sections')} that{' '}
      {missing.length === 1 ? 'is' : 'are'} not in the mapping:{' '}
      {missing.map((one) => `${one.title} (${one.tier})`).join(', ')}. Whoever gets the whole course gets{' '}
      {missing.length === 1 ? 'it' : 'them'} either way; bring {missing.length === 1 ? 'it' : 'them'} in to
      open parts of the course.{' '}
      <Button small onClick={bring}>
        Bring {missing.length === 1 ? 'it' : 'them'} in
      </Button>
      {fresh.length > 0 && (
        <span className="text-soft"> New tiers, lowest first: {[...tiers, ...fresh].join(', ')}.</span>
      )}
      {draft.things['school/tiers'] !== undefined && (
        <span className="text-soft"> Tiers are in your draft.</span>
      )}
    </p>
  );
}

/** Tags by the school's names, with their links, for one course or for all. */
export function MakeTags({
  course,
  draft,
  things,
  now,
  grid,
  change,
}: Omit<Shared, 'headline'> & { course?: string }) {
  const make = api.useMutation('post', '/api/mapping/course-tags', {
    onSuccess: ({ cells, things: made }) =>
      change({
        act: 'set',
        cells: cells.map((cell) => [cellKey(cell.source, cell.target), cell.terms ?? null]),
        things: made.map(({ thing, to }) => [thing, to ?? null, lookup(things)(thing)]),
        published: now,
        version: grid.version,
      }),
  });
  const names = (drafted(things, draft)('school/tagNames') ?? []) as { name: string }[];
  if (names.length === 0) return null;
  const nothing = make.data?.cells.length === 0 && make.data.things.length === 0;
  return (
    <Acts className="items-center">
      <Button
        small
        disabled={make.isPending}
        onClick={() =>
          make.mutate({ body: { draft: asDraft(draft), ...(course !== undefined && { course }) } })
        }
      >
        {course === undefined ? 'Make the tags of all courses' : 'Make its tags'}
      </Button>
      <span className="text-soft">
        {nothing
          ? 'They are all there already.'
          : names.map((one) => one.name.replace('{course}', course ?? '…')).join(', ')}
      </span>
      {make.error !== null && <Fault error={make.error} />}
    </Acts>
  );
}
