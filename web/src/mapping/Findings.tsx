import { useNavigate, Link } from '@tanstack/react-router';
import { useQueryClient } from '@tanstack/react-query';
import { useState, type SubmitEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { Empty, Fault, Waiting } from '../ui/parts';
import { counted } from '../ui/words';
import { cellKey, published, reduce } from './draft';
import { idIn } from './paths';
import { placeOf } from './sorts';
import { useDraft, useKeep } from './useDraft';

type Finding = Schemas['ShownFinding'];

const GROUPS: [severity: Finding['severity'], title: string, mark: string][] = [
  ['GRAVE', 'Somebody is hurt by it', 'grave'],
  ['WARNING', 'It will not do what it looks like', 'soon'],
  ['NOTE', 'Perhaps it is meant so', 'off'],
];

/** What in the mapping a person should look at. */
export function Findings() {
  const fix = useFix();
  const all = api.useQuery('get', '/api/findings', undefined, { refetchInterval: 10_000 });
  if (all.error !== null) return <Fault error={all.error} />;
  if (all.data === undefined) return <Waiting what="the mapping over" />;
  const open = all.data.filter((one) => one.acceptance === undefined);
  const accepted = all.data.filter((one) => one.acceptance !== undefined);
  return (
    <>
      {open.length === 0 && <Empty title="Nothing is found." />}
      {GROUPS.map(([severity, title, mark]) => {
        const found = open.filter((one) => one.severity === severity);
        return (
          found.length > 0 && (
            <section key={severity} className="findings">
              <h2>
                {title} <span className="soft">{found.length}</span>
              </h2>
              <ul className="rows">
                {found.map((one) => (
                  <FindingRow key={one.kind + one.subject} finding={one} mark={mark} onFix={() => fix(one)} />
                ))}
              </ul>
            </section>
          )
        );
      })}
      {accepted.length > 0 && (
        <section className="findings">
          <h2>
            Accepted <span className="soft">{accepted.length}</span>
          </h2>
          <ul className="rows">
            {accepted.map((one) => (
              <Accepted key={one.kind + one.subject} finding={one} />
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function FindingRow({ finding, mark, onFix }: { finding: Finding; mark: string; onFix: () => void }) {
  const [accepting, setAccepting] = useState(false);
  return (
    <li className="row">
      <span className={`mark mark-${mark}`} aria-hidden="true" />
      <div className="row-words">
        <strong>
          {finding.title}
          {finding.people > 0 && <span className="soft"> {counted(finding.people, 'person', 'people')}</span>}
        </strong>
        <span>
          {finding.text} {finding.advice}
        </span>
        {accepting && <Accept finding={finding} onDone={() => setAccepting(false)} />}
      </div>
      <div className="acts">
        {finding.fix.length > 0 && (
          <button className="btn btn-sm" onClick={onFix}>
            Put it right in the draft
          </button>
        )}
        {finding.system !== undefined && (
          <Link
            className="btn btn-sm"
            to="/systems/$id"
            params={{ id: finding.system }}
            search={{ view: 'out-of-step', target: finding.subject }}
          >
            Who, and take them out
          </Link>
        )}
        <Jump subject={finding.subject} />
        <button className="btn btn-sm" aria-expanded={accepting} onClick={() => setAccepting(!accepting)}>
          Accept
        </button>
      </div>
    </li>
  );
}

/** To the row or column that it is about. */
function Jump({ subject }: { subject: string }) {
  if (subject.startsWith('order/')) {
    return (
      <Link className="btn btn-sm" to="/orders/$id" params={{ id: idIn(subject) }}>
        Look
      </Link>
    );
  }
  const search = placeOf(subject);
  return (
    search !== undefined && (
      <Link className="btn btn-sm" to="/mapping" search={search}>
        Look
      </Link>
    )
  );
}

function Accept({ finding, onDone }: { finding: Finding; onDone: () => void }) {
  const queries = useQueryClient();
  const [reason, setReason] = useState('');
  const accept = api.useMutation('post', '/api/findings/accept', {
    onSuccess: async () => {
      await queries.invalidateQueries();
      onDone();
    },
  });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const { kind, subject, evidence } = finding;
    accept.mutate({ body: { kind, subject, evidence, reason } });
  };
  return (
    <form className="acts acts-line" onSubmit={submit}>
      <input
        className="input"
        aria-label="Why it may be so"
        placeholder="why it may be so"
        maxLength={300}
        required
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button className="btn btn-sm btn-primary" disabled={accept.isPending}>
        Accept it
      </button>
      {accept.error !== null && <Fault error={accept.error} />}
    </form>
  );
}

function Accepted({ finding }: { finding: Finding }) {
  const { zone } = useSession();
  const queries = useQueryClient();
  const reopen = api.useMutation('post', '/api/findings/reopen', {
    onSettled: () => queries.invalidateQueries(),
  });
  const { kind, subject, acceptance } = finding;
  return (
    <li className="row">
      <span className="mark mark-off" aria-hidden="true" />
      <div className="row-words">
        <strong>{finding.title}</strong>
        <span>
          “{acceptance?.reason}” {acceptance?.by}, {shownDate(acceptance?.at ?? '', zone)}
        </span>
        {reopen.error !== null && <Fault error={reopen.error} />}
      </div>
      <button
        className="btn btn-sm"
        disabled={reopen.isPending}
        onClick={() => reopen.mutate({ body: { kind, subject } })}
      >
        Open again
      </button>
    </li>
  );
}

/** Puts what would mend a finding into the draft, and goes there. */
export function useFix() {
  const [draft] = useDraft();
  const keep = useKeep();
  const navigate = useNavigate();
  const grid = api.useQuery('get', '/api/mapping');
  return (finding: Finding) => {
    if (grid.data === undefined) return;
    keep(
      reduce(draft, {
        act: 'set',
        cells: finding.fix.map((cell) => [cellKey(cell.source, cell.target), cell.terms ?? null]),
        published: published(grid.data.cells),
        version: grid.data.version,
      }),
    );
    void navigate({ to: '/mapping', search: {} });
  };
}
