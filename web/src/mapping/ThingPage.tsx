import { Link } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { counted, money } from '../ui/words';
import { cellOf, effectiveCells } from './draft';
import type { SetThings, Shared } from './DraftMargin';
import { CourseRules } from './CourseRules';
import { DoorRules, LessonDoors } from './DoorRules';
import { LevelRules } from './LevelRules';
import { planInWords } from './plans';
import { ProductRules } from './ProductRules';
import { idIn, sortIn } from './paths';
import { choiceInWords, choosing, type Grid, used, waysAround, withDrafted } from './shown';
import { placeOf } from './sorts';
import { asShared, inWords, termsIn } from './terms';
import { TermsEditor } from './TermsEditor';
import { Holders, Ordered, People } from './ThingPeople';
import { Go, Name } from './ThingParts';
import {
  all,
  drafted,
  isSort,
  lookup,
  SORT_WORDS,
  type Course,
  type Named,
  type SharedTerms,
} from './things';
import { Badge, Button, buttonLook, CopyText, Empty, Facts, Fault } from '../ui/kit';

type Props = Omit<Shared, 'headline'> & { path: string; set: SetThings };

/** What people have, once it is opened to them. */
const CAN_BE_HELD: ReadonlySet<string> = new Set([
  'course',
  'level',
  'tag',
  'group',
  'area',
  'download',
  'list',
]);

/** What people meet closed, or buy. */
const HAS_A_DOOR: ReadonlySet<string> = new Set(['course', 'level', 'area', 'product']);

const TRIALS_OF = { product: 'PRODUCT', level: 'LEVEL', course: 'COURSE' } as const;

function isTried(sort: string): sort is keyof typeof TRIALS_OF {
  return sort in TRIALS_OF;
}

/** One thing: its rules, where it comes from, its links both ways, who bought it. */
export function ThingPage(props: Props) {
  const { path, things, draft, set } = props;
  const [sort, id] = [sortIn(path), idIn(path)];
  const found = api.useQuery('get', '/api/mapping/things/{sort}/{id}', { params: { path: { sort, id } } });
  const thing = drafted(things, draft)(path) as Named | null;
  const was = lookup(things)(path);
  if (!isSort(sort) || (thing === null && was === null)) {
    return (
      <Empty title="There is no such thing.">
        <Back />
      </Empty>
    );
  }
  if (thing === null) {
    return (
      <Empty title="It goes, in your draft.">
        <Button onClick={() => set([[path, was, was]])}>Keep it</Button>
        <Back />
      </Empty>
    );
  }
  const put = (to: unknown) => set([[path, to, was]]);
  return (
    <article className="grid max-w-6xl gap-4">
      <p className="text-soft">
        <Back /> · {SORT_WORDS[sort].one} <code>{id}</code>
      </p>
      <h2 className="text-2xl">{thing.title ?? id}</h2>
      {isTried(sort) && was !== null && (
        <p>
          <Link
            className={buttonLook({ small: true })}
            to="/rehearse"
            search={{ tries: TRIALS_OF[sort], of: id }}
          >
            Try it as a stranger
          </Link>
        </p>
      )}
      {found.error !== null && <Fault error={found.error} />}
      {sort !== 'terms' && found.data !== undefined && <FromSystems sort={sort} page={found.data} />}
      <Rules {...props} thing={thing} page={found.data} put={put} />
      {sort !== 'terms' && <Ways {...props} />}
      {HAS_A_DOOR.has(sort) && (
        <section className="grid gap-2">
          <h3 className="text-xl">Where people go</h3>
          <DoorRules place={path} things={things} draft={draft} set={set} />
          {sort === 'course' && (
            <LessonDoors
              course={id}
              lessons={(thing as Course).sections ?? []}
              things={things}
              draft={draft}
              set={set}
            />
          )}
        </section>
      )}
      {CAN_BE_HELD.has(sort) && <Holders path={path} />}
      {sort === 'product' && found.data !== undefined && <Ordered ordered={found.data.ordered} />}
      {sort === 'product' && found.data !== undefined && (
        <People
          people={found.data.buyers}
          nobody="Nobody has bought it so far"
          some={`${counted(found.data.buyers.many, 'person has', 'people have')} bought it`}
        />
      )}
      {sort === 'list' && found.data !== undefined && (
        <People
          people={found.data.left}
          nobody="Nobody has left it"
          some={`${counted(found.data.left.many, 'person has', 'people have')} left it, and nothing puts them on it again but they themselves`}
        />
      )}
    </article>
  );
}

function Back() {
  return (
    <Link to="/mapping" search={{ view: 'catalogue' }}>
      The catalogue
    </Link>
  );
}

type RulesProps = Props & {
  thing: Named;
  page: Schemas['ThingPage'] | undefined;
  put: (to: unknown) => void;
};

function Rules(props: RulesProps) {
  const { path, grid, thing, page, put } = props;
  const own = page !== undefined && page.sources.every((source) => source.gone !== undefined);
  switch (sortIn(path)) {
    case 'product':
      return <ProductRules product={thing} plan={page?.plan} onChange={put} />;
    case 'course':
      return <CourseRules {...props} course={thing} listed={page?.sections ?? []} />;
    case 'level':
      return <LevelRules {...props} level={thing} onGo={() => put(null)} />;
    case 'terms': {
      const shared = thing as SharedTerms;
      return (
        <>
          <TermsEditor
            title={`“${shared.title ?? shared.id}”`}
            opener={{ sort: 'product', subscribed: false }}
            targetSort=""
            tiers={grid.tiers}
            terms={termsIn(shared.terms)}
            onChange={(terms) => put({ ...shared, terms: asShared(terms) })}
            onClose={() => undefined}
          />
          <Go what="these terms" onGo={() => put(null)} />
        </>
      );
    }
    default:
      return own ? (
        <section>
          <Name thing={thing} put={put} />
          <Go what="it" onGo={() => put(null)} />
        </section>
      ) : null;
  }
}

function FromSystems({ sort, page }: { sort: string; page: Schemas['ThingPage'] }) {
  const { zone } = useSession();
  const { sources, about, price, currency } = page;
  return (
    <section>
      {about !== undefined && about !== '' && <p>“{about}”</p>}
      {price !== undefined && currency !== undefined && (
        <p>
          {money(price, currency)}
          {page.plan !== undefined && `, ${planInWords(page.plan)}`}
        </p>
      )}
      <Facts>
        {sources.length === 0 && (
          <li className="text-soft">No connected system lists it; it is the school’s own.</li>
        )}
        {sources.map((source) => (
          <li key={source.system}>
            <strong>{source.title}</strong>{' '}
            <span>
              {source.gone === undefined
                ? `lists it as “${source.name}”, last seen ${shownTime(source.seen, zone)}`
                : `listed it as “${source.name}” until ${shownTime(source.gone, zone)}`}
            </span>
            {source.link !== undefined && (
              <CopyText
                label={sort === 'product' ? 'Puts it into the basket' : 'Leads to the course'}
                text={source.link}
              />
            )}
          </li>
        ))}
      </Facts>
    </section>
  );
}

/** Which thing's page tells of something on the grid: a section stands on its course's. None of a whole category. */
function pageOf(path: string, grid: Grid): string | undefined {
  const sort = sortIn(path);
  if (sort === 'option') return grid.sources.find((row) => row.source === path)?.parent;
  if (sort === 'section') return grid.targets.find((column) => column.target === path)?.parent;
  if (sort === 'completed') return `course/${idIn(path)}`;
  return isSort(sort) ? path : undefined;
}

function ToPage({ page, children }: { page: string | undefined; children: string }) {
  return page === undefined ? (
    <strong>{children}</strong>
  ) : (
    <Link to="/mapping" search={{ view: 'catalogue', thing: page }}>
      {children}
    </Link>
  );
}

const DOORS: Record<Schemas['CourseFacts']['door'], string> = {
  YORU_ONLY: 'nobody gets in but through the mapping',
  FREE_SIGN_UP: 'whoever signs up gets in',
  OPEN_TO_ALL: 'everybody gets in',
};

/** Whether a course can be opened at all, and who else gets in. */
function Doors({ course, forMembers }: { course: Schemas['CourseFacts']; forMembers: boolean }) {
  return (
    <p className="flex flex-wrap gap-2">
      <Badge tone={course.published ? 'good' : 'warn'}>
        {course.published ? 'published' : 'not published'}
      </Badge>
      <Badge tone={course.content ? 'good' : 'warn'}>
        {course.content ? 'has content' : 'no content yet'}
      </Badge>
      <Badge tone={course.door === 'YORU_ONLY' ? 'good' : 'bad'}>{DOORS[course.door]}</Badge>
      {forMembers && <Badge tone="violet">for members only: no product opens it</Badge>}
    </p>
  );
}

/** Its links both ways, were the draft published. */
function Ways({ path, grid: inForce, things, now, draft }: Props) {
  const grid = withDrafted(inForce, draft);
  const cells = [...effectiveCells(draft, now)];
  const title = (other: string) =>
    grid.sources.find((row) => row.source === other)?.title ??
    grid.targets.find((column) => column.target === other)?.title ??
    other;
  const side = (at: 0 | 1) => cells.filter(([key]) => cellOf(key)[at] === path);
  const list = (heading: string, at: 0 | 1) =>
    side(at).length > 0 && (
      <section>
        <h3>{heading}</h3>
        <Facts>
          {side(at).map(([key, terms]) => {
            const other = cellOf(key)[1 - at] ?? '';
            const opener = grid.sources.find((row) => row.source === cellOf(key)[0]);
            return (
              <li key={key}>
                <ToPage page={pageOf(other, grid)}>{title(other)}</ToPage>{' '}
                <span>{inWords(terms, opener)}</span>
              </li>
            );
          })}
        </Facts>
      </section>
    );
  const place = placeOf(path);
  const column = grid.targets.find((one) => one.target === path);
  const whole = column === undefined ? [] : waysAround(used(new Map(cells), grid), column);
  const ways = [...side(1).map(([key]) => cellOf(key)[0]), ...whole.map((way) => way.source)];
  const choices = column === undefined ? [] : choosing(all(things, draft, 'level'), column);
  const forMembers = ways.length + choices.length > 0 && ways.every((source) => sortIn(source) === 'level');
  return (
    <>
      {column?.course !== undefined && <Doors course={column.course} forMembers={forMembers} />}
      {list('Opens', 0)}
      {list('The ways into it', 1)}
      {whole.length > 0 && (
        <section>
          <h3>The ways into it with its category</h3>
          <Facts>
            {whole.map((way) => (
              <li key={way.key}>
                <ToPage page={pageOf(way.source, grid)}>{title(way.source)}</ToPage>{' '}
                <span>
                  {way.words},{' '}
                  {inWords(
                    way.terms,
                    grid.sources.find((row) => row.source === way.source),
                  )}
                </span>
              </li>
            ))}
          </Facts>
        </section>
      )}
      {choices.length > 0 && (
        <section>
          <h3>Who may choose it</h3>
          <Facts>
            {choices.map(({ level, allowance }) => (
              <li key={level.id}>
                <ToPage page={`level/${level.id}`}>{level.title ?? level.id}</ToPage>{' '}
                <span>{choiceInWords(allowance)}</span>
              </li>
            ))}
          </Facts>
        </section>
      )}
      {side(0).length + side(1).length + whole.length + choices.length === 0 && (
        <p className="text-warning">Nothing is mapped to it yet.</p>
      )}
      {place !== undefined && (
        <Link className={`${buttonLook({ small: true })} justify-self-start`} to="/mapping" search={place}>
          On the grid
        </Link>
      )}
    </>
  );
}
