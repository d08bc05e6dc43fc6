import { Link } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useNow } from '../band/useNow';
import { fromNow } from '../ui/dates';
import { counted } from '../ui/words';
import { ABILITIES, KINDS, listed, outOfStep, standing, type Lists, type SystemShown } from './words';
import {
  buttonLook,
  Empty,
  Facts,
  Fault,
  Headline,
  INK,
  Margin,
  Mark,
  Row,
  Rows,
  RowWords,
  Screen,
  Waiting,
} from '../ui/kit';

/** All connected systems and how they are. */
export function Systems() {
  const now = useNow(5_000);
  const all = api.useQuery('get', '/api/systems', undefined, { refetchInterval: 3_000 });
  const data = all.data;
  return (
    <Screen
      margin={
        <Margin label="What follows">
          {data !== undefined && <Gaps gaps={data.gaps} connected={data.systems.length} />}
        </Margin>
      }
    >
      <Headline>
        <h1>Systems</h1>
        {data !== undefined && <p>{summary(data.systems)}</p>}
        <Link className={buttonLook({ kind: 'main' })} to="/systems/add">
          Add a system
        </Link>
      </Headline>
      {all.error !== null && <Fault error={all.error} />}
      {data === undefined ? (
        all.error === null && <Waiting what="how the systems are" />
      ) : data.systems.length === 0 ? (
        <Empty title="No system is connected yet.">
          <p>A shop tells Yoru what was sold; a classroom is told who may enter. Begin with either.</p>
          <Link className={buttonLook()} to="/systems/add">
            Add a system
          </Link>
        </Empty>
      ) : (
        <Rows>
          {data.systems.map((system) => (
            <SystemRow
              key={system.id}
              system={system}
              lists={data.lists[system.id]}
              hours={data.days[system.id]}
              now={now}
            />
          ))}
        </Rows>
      )}
    </Screen>
  );
}

function summary(systems: SystemShown[]): string {
  const troubled = systems.filter((system) => standing(system, outOfStep(system))[0] === 'bad').length;
  const waiting = systems.reduce((sum, system) => sum + system.waiting, 0);
  const how =
    troubled > 0
      ? `${counted(troubled, 'system needs', 'systems need')} you`
      : waiting > 0
        ? `${waiting} on the way`
        : 'all is told';
  return `${counted(systems.length, 'system', 'systems')} · ${how}`;
}

function SystemRow({
  system,
  lists = {},
  hours = [],
  now,
}: {
  system: SystemShown;
  lists: Lists | undefined;
  hours: number[] | undefined;
  now: number;
}) {
  const [tone, words] = standing(system, outOfStep(system));
  const mark = ({ good: 'well', soft: 'off', warn: 'soon', bad: 'grave' } as const)[tone];
  return (
    <Row>
      <Mark kind={mark} />
      <RowWords>
        <strong>
          <Link to="/systems/$id" params={{ id: system.id }}>
            {system.title}
          </Link>{' '}
          <span className="text-soft">{KINDS[system.kind].name.toLowerCase()}</span>
        </strong>
        <span>{listed(lists)}</span>
        <span>{more(system, now)}</span>
      </RowWords>
      {told(system) && <Day hours={hours} />}
      <strong className={`min-w-36 text-right ${INK[tone]}`}>{words}</strong>
    </Row>
  );
}

/** Whether it is told anything. */
function told(system: SystemShown): boolean {
  return system.abilities.some((ability) => ability !== 'CATALOGUE' && ability !== 'LISTING');
}

/** How often it was told something in each of the last 24 hours, as small bars. */
function Day({ hours }: { hours: number[] }) {
  const most = Math.max(1, ...hours);
  const all = hours.reduce((sum, many) => sum + many, 0);
  return (
    <span
      role="img"
      aria-label={`${counted(all, 'answer', 'answers')} in the last 24 hours`}
      title={`${counted(all, 'answer', 'answers')} in the last 24 hours`}
      className="hidden h-7 w-30 items-end gap-px border-b border-line sm:flex"
    >
      {hours.map((many, hour) => (
        <span
          key={hour}
          className="flex-1 bg-accent"
          style={{ height: many === 0 ? 0 : `${8 + (many / most) * 92}%` }}
        />
      ))}
    </span>
  );
}

function more(system: SystemShown, now: number): string {
  if (system.failing > 0 && system.traffic.lastTrouble !== undefined) {
    return [system.traffic.lastTrouble, system.traffic.advice].join('. ');
  }
  if (system.catalogueFault !== undefined) return `its catalogue: ${system.catalogueFault}`;
  return [
    system.reportsTo !== undefined &&
      (system.heardAt === undefined ? 'not heard yet' : `heard ${fromNow(system.heardAt, now)}`),
    told(system) &&
      (system.traffic.answeredLastMinute > 0
        ? `${system.traffic.answeredLastMinute} told in the last minute`
        : system.traffic.answeredAt === undefined
          ? 'told nothing yet'
          : `last told ${fromNow(system.traffic.answeredAt, now)}`),
    system.check?.endedAt !== undefined && `compared ${fromNow(system.check.endedAt, now)}`,
    system.changed.length > 0 &&
      counted(system.changed.length, 'change in its catalogue', 'changes in its catalogue'),
  ]
    .filter(Boolean)
    .join(' · ');
}

function Gaps({ gaps, connected }: { gaps: Schemas['GapShown'][]; connected: number }) {
  return (
    <section>
      <h2>What no system can do</h2>
      {gaps.length === 0 ? (
        <p className="text-soft">
          {connected === 0
            ? 'Nothing is mapped yet that would need a system.'
            : 'Whatever the mapping opens, a connected system can do.'}
        </p>
      ) : (
        <Facts>
          {gaps.map((gap) => (
            <li key={gap.ability}>
              <strong className="text-warning">{ABILITIES[gap.ability]}</strong>
              <span>
                {gap.first}
                {gap.targets > 1 && ` and ${gap.targets - 1} more`}: people get it in Yoru, and nowhere else.
              </span>
            </li>
          ))}
        </Facts>
      )}
    </section>
  );
}
