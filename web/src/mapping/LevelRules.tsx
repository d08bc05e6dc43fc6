import type { Shared } from './DraftMargin';
import { effectiveCells } from './draft';
import { Count, Ticks } from './inputs';
import { admits, isForMembers, used } from './shown';
import { Go, Name } from './ThingParts';
import { all, drafted, without, type Allowance, type Course, type Ladder, type Level } from './things';
import { Check, Checkbox, Panel, Select } from '../ui/kit';

type Props = Omit<Shared, 'headline'> & {
  level: Level;
  put: (to: unknown) => void;
  onGo: () => void;
};

/** A membership level: where it stands on its ladder, and which courses its holders may choose. */
export function LevelRules({ level, put, onGo, grid, things, draft, now }: Props) {
  const ladders = (drafted(things, draft)('school/ladders') ?? []) as Ladder[];
  const levels = all(things, draft, 'level') as Level[];
  const onLadder = (ladder: string) => levels.filter((one) => one.ladder === ladder && one.id !== level.id);
  const climb = (ladder: string) => {
    const rest = without(level, 'ladder', 'rank');
    const rank = 1 + Math.max(0, ...onLadder(ladder).map((one) => one.rank ?? 0));
    put(ladder === '' ? rest : { ...rest, ladder, rank });
  };
  return (
    <Panel>
      <Name thing={level} put={put} />
      <Check>
        On the ladder
        <Select
          aria-label="On the ladder"
          value={level.ladder ?? ''}
          onChange={(event) => climb(event.target.value)}
        >
          <option value="">none: it stands alone</option>
          {ladders.map((ladder) => (
            <option key={ladder.id} value={ladder.id}>
              {ladder.id}
            </option>
          ))}
        </Select>
        {level.ladder !== undefined && (
          <>
            at rank
            <Count label="Rank" value={level.rank ?? 0} onChange={(rank) => put({ ...level, rank })} />
          </>
        )}
      </Check>
      {level.ladder !== undefined && (
        <p className="text-soft">
          Who holds a higher one{' '}
          {ladders.find((one) => one.id === level.ladder)?.higherIncludesLower === true
            ? 'has what the lower ones open too.'
            : 'does not hold the lower ones.'}{' '}
          {onLadder(level.ladder)
            .map((one) => `${one.title ?? one.id} is ${one.rank ?? 0}`)
            .join(', ')}
        </p>
      )}
      {ladders.length === 0 && <p className="text-soft">Ladders are made under the rules of the school.</p>}
      <Choosing level={level} put={put} courses={all(things, draft, 'course')} />
      <InNone levels={levels} grid={grid} draft={draft} now={now} />
      <Go what="this level" onGo={onGo} />
    </Panel>
  );
}

/** Courses that no member gets as such, were the draft published. */
function InNone({ levels, grid, draft, now }: Pick<Props, 'grid' | 'draft' | 'now'> & { levels: Level[] }) {
  const inUse = used(effectiveCells(draft, now), grid);
  const none = grid.targets.filter(
    (column) => column.sort === 'course' && !isForMembers(levels, inUse, column),
  );
  return (
    <p className="text-soft">
      {none.length === 0
        ? 'Every course is in some level.'
        : `In no level: ${none.map((column) => column.title).join(', ')}.`}
    </p>
  );
}

function Choosing({ level, put, courses }: { level: Level; put: (to: unknown) => void; courses: Course[] }) {
  const { allowance } = level;
  const set = (part: Partial<Allowance>) =>
    put({ ...level, allowance: { courses: 1, ...allowance, ...part } });
  const categories = [...new Set(courses.flatMap((course) => course.categories ?? []))];
  const choosable = courses.filter((course) => allowance !== undefined && admits(allowance, course));
  return (
    <>
      <Check>
        <Checkbox
          checked={allowance !== undefined}
          onChange={(event) => {
            const rest = without(level, 'allowance');
            put(event.target.checked ? { ...rest, allowance: { courses: 3 } } : rest);
          }}
        />
        Its holders choose courses themselves
      </Check>
      {allowance !== undefined && (
        <div className="grid gap-3 border-l-[3px] border-line pl-3.5">
          <Check as="div">
            <Count label="Courses" value={allowance.courses} onChange={(count) => set({ courses: count })} />
            at a time,
            <Check>
              <Checkbox
                checked={allowance.premium !== undefined}
                onChange={(event) => {
                  const rest = without(allowance, 'premium');
                  put({ ...level, allowance: event.target.checked ? { ...rest, premium: 1 } : rest });
                }}
              />
              but of premium ones no more than
            </Check>
            {allowance.premium !== undefined && (
              <Count label="Premium" value={allowance.premium} onChange={(premium) => set({ premium })} />
            )}
          </Check>
          <Ticks
            legend="From these categories; none ticked: from all"
            options={categories.map((category) => [category, category])}
            ticked={allowance.categories ?? []}
            onChange={(chosen) => set({ categories: chosen })}
          />
          <Ticks
            legend="But not these courses"
            options={courses.map((course) => [course.id, course.title ?? course.id])}
            ticked={allowance.except ?? []}
            onChange={(except) => set({ except })}
          />
          <p className={choosable.length < allowance.courses ? 'text-warning' : 'text-soft'}>
            {choosable.length} of {courses.length} courses can be chosen.
          </p>
        </div>
      )}
    </>
  );
}
