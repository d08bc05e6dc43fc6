import { useTouch } from '../api/touch';
import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { useMay } from '../session/may';
import { api, problemOf, type Schemas } from '../api/client';
import { standing } from '../systems/words';
import { fromNow } from '../ui/dates';
import { INK, TextButton } from '../ui/kit';

/** What happened in the last 24 hours, as bars beside each other. */
export function Since({ since }: { since: Schemas['Since'] }) {
  const rows = [
    { name: 'sold', count: since.sold, look: 'bg-lamp' },
    { name: 'opened', count: since.opened, look: 'bg-success' },
    { name: 'ended', count: since.ended, look: 'bg-secondary' },
    { name: 'refunded', count: since.refunded, look: 'bg-error' },
  ];
  const most = Math.max(1, ...rows.map((row) => row.count));
  return (
    <section>
      <h2>In the last 24 hours</h2>
      <dl className="mt-2.5 grid gap-2 [&>div]:grid [&>div]:grid-cols-[5.5rem_1fr] [&>div]:items-center [&_dd]:flex [&_dd]:items-center [&_dd]:justify-between [&_dd]:gap-2.5">
        {rows.map((row) => (
          <div key={row.name}>
            <dt>{row.name}</dt>
            <dd>
              <span
                className={`h-3 max-w-[calc(100%-2.4rem)] flex-none rounded-xs ${row.look}`}
                style={{ width: `${(row.count / most) * 100}%` }}
                aria-hidden="true"
              />
              <span className="ml-auto font-bold">{row.count}</span>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

interface HealthProps {
  systems: Schemas['SystemHealth'][];
  outOfStep: Schemas['AtOdds'][];
  now: number;
}

export function SystemsHealth({ systems, outOfStep, now }: HealthProps) {
  return (
    <section>
      <h2>Systems</h2>
      {systems.length === 0 && (
        <p className="text-soft">No system is connected yet, so nothing can be sold or opened.</p>
      )}
      <ul className="divide-y divide-line [&>li]:py-2">
        {systems.map((system) => (
          <SystemRow
            key={system.id}
            system={system}
            differences={outOfStep
              .filter((one) => one.connection === system.id)
              .reduce((sum, one) => sum + one.extra + one.missing + one.different, 0)}
            now={now}
          />
        ))}
      </ul>
    </section>
  );
}

interface RowProps {
  system: Schemas['SystemHealth'];
  differences: number;
  now: number;
}

function SystemRow({ system, differences, now }: RowProps) {
  const touch = useTouch();
  const { setUp } = useMay();
  const read = api.useMutation('post', '/api/systems/{id}/catalogue', {
    onSettled: () => touch('systems'),
  });
  const troubled = standing(system, differences);
  const [tone, words] = troubled[0] === 'good' ? well(system, now) : troubled;
  return (
    <li>
      <div className="flex justify-between gap-3">
        <ToSystem id={system.id}>{system.title}</ToSystem>
        <strong className={INK[tone]}>{words}</strong>
      </div>
      <div className="flex justify-between gap-3 text-[0.88rem] text-soft">
        <span>
          {system.catalogueFault !== undefined
            ? `its catalogue: ${system.catalogueFault}`
            : system.catalogueAt !== undefined
              ? `catalogue read ${fromNow(system.catalogueAt, now)}`
              : system.kind === 'MAILBOX'
                ? 'takes letters'
                : 'catalogue not read yet'}
          {system.refused > 0 && ` · ${system.refused} turned away for a wrong signature`}
        </span>
        {system.kind !== 'MAILBOX' && setUp && (
          <TextButton
            disabled={read.isPending}
            aria-label={`Read the catalogue of ${system.title} now`}
            onClick={() => read.mutate({ params: { path: { id: system.id } } })}
          >
            {read.isPending ? 'Reading …' : 'Read now'}
          </TextButton>
        )}
      </div>
      {read.error !== null && (
        <p role="alert" className="text-error">
          {problemOf(read.error).detail}
        </p>
      )}
    </li>
  );
}

/** What to say of a system that is well. */
function well(system: Schemas['SystemHealth'], now: number): ['good' | 'soft', string] {
  if (system.kind !== 'SHOP') return ['good', 'has all it should'];
  return system.heardAt === undefined
    ? ['soft', 'not heard yet']
    : ['good', `heard ${fromNow(system.heardAt, now)}`];
}

function ToSystem({ id, children }: { id: string; children: ReactNode }) {
  const { setUp } = useMay();
  return setUp ? (
    <Link to="/systems/$id" params={{ id }}>
      {children}
    </Link>
  ) : (
    <strong>{children}</strong>
  );
}
