import { useNavigate, Link } from '@tanstack/react-router';
import { useTouch } from '../api/touch';
import { useState } from 'react';
import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { counted } from '../ui/words';
import { cellKey, published, reduce } from './draft';
import { idIn } from './paths';
import { isAboutDoor, isAboutFollowup, placeOf } from './sorts';
import { useDraftHere, useKeep } from './useDraft';
import {
  Acts,
  Button,
  buttonLook,
  Empty,
  Fault,
  Field,
  Mark,
  type MarkKind,
  Row,
  Rows,
  RowWords,
  useFields,
  Waiting,
} from '../ui/kit';

type Finding = Schemas['ShownFinding'];

const GROUPS: [severity: Finding['severity'], title: string, mark: MarkKind][] = [
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
            <section key={severity} className="mb-5">
              <h2>
                {title} <span className="text-soft">{found.length}</span>
              </h2>
              <Rows>
                {found.map((one) => (
                  <FindingRow key={one.kind + one.subject} finding={one} mark={mark} onFix={() => fix(one)} />
                ))}
              </Rows>
            </section>
          )
        );
      })}
      {accepted.length > 0 && (
        <section className="mb-5">
          <h2>
            Accepted <span className="text-soft">{accepted.length}</span>
          </h2>
          <Rows>
            {accepted.map((one) => (
              <Accepted key={one.kind + one.subject} finding={one} />
            ))}
          </Rows>
        </section>
      )}
    </>
  );
}

function FindingRow({ finding, mark, onFix }: { finding: Finding; mark: MarkKind; onFix: () => void }) {
  const [accepting, setAccepting] = useState(false);
  return (
    <Row>
      <Mark kind={mark} />
      <RowWords>
        <strong>
          {finding.title}
          {finding.people > 0 && (
            <span className="text-soft"> {counted(finding.people, 'person', 'people')}</span>
          )}
        </strong>
        <span>
          {finding.text} {finding.advice}
        </span>
        {accepting && <Accept finding={finding} onDone={() => setAccepting(false)} />}
      </RowWords>
      <Acts>
        {finding.fix.length > 0 && (
          <Button small onClick={onFix}>
            Put it right in the draft
          </Button>
        )}
        {finding.system !== undefined && (
          <Link
            className={buttonLook({ small: true })}
            to="/systems/$id"
            params={{ id: finding.system }}
            search={{ view: 'out-of-step', target: finding.subject }}
          >
            Who, and take them out
          </Link>
        )}
        <Jump subject={finding.subject} />
        <Button small aria-expanded={accepting} onClick={() => setAccepting(!accepting)}>
          Accept
        </Button>
      </Acts>
    </Row>
  );
}

/** To the row or column that it is about. */
function Jump({ subject }: { subject: string }) {
  if (subject.startsWith('order/')) {
    return (
      <Link className={buttonLook({ small: true })} to="/orders/$id" params={{ id: idIn(subject) }}>
        Look
      </Link>
    );
  }
  if (isAboutFollowup(subject)) {
    return (
      <Link className={buttonLook({ small: true })} to="/followups" search={{ which: idIn(subject) }}>
        Look
      </Link>
    );
  }
  const search = isAboutDoor(subject)
    ? { view: 'catalogue' as const, thing: idIn(subject) }
    : placeOf(subject);
  return (
    search !== undefined && (
      <Link className={buttonLook({ small: true })} to="/mapping" search={search}>
        Look
      </Link>
    )
  );
}

const ACCEPT = z.object({ reason: z.string().trim().min(1, 'Say why it may be so.').max(300) });

function Accept({ finding, onDone }: { finding: Finding; onDone: () => void }) {
  const touch = useTouch();
  const form = useFields(ACCEPT, { reason: '' });
  const accept = api.useMutation('post', '/api/findings/accept', {
    onSuccess: async () => {
      await touch('findings');
      onDone();
    },
    onError: form.land,
  });
  const { kind, subject, evidence } = finding;
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) =>
        void form.handleSubmit(({ reason }) => accept.mutate({ body: { kind, subject, evidence, reason } }))(
          event,
        )
      }
    >
      <div className="min-w-60 flex-1">
        <Field label="Why it may be so" first {...form.field('reason')} />
      </div>
      <Button kind="main" small disabled={accept.isPending}>
        Accept it
      </Button>
      {accept.error !== null && <Fault error={accept.error} />}
    </form>
  );
}

function Accepted({ finding }: { finding: Finding }) {
  const { zone } = useSession();
  const touch = useTouch();
  const reopen = api.useMutation('post', '/api/findings/reopen', {
    onSettled: () => touch('findings'),
  });
  const { kind, subject, acceptance } = finding;
  return (
    <Row>
      <Mark kind="off" />
      <RowWords>
        <strong>{finding.title}</strong>
        <span>
          “{acceptance?.reason}” {acceptance?.by}, {shownDate(acceptance?.at ?? '', zone)}
        </span>
        {reopen.error !== null && <Fault error={reopen.error} />}
      </RowWords>
      <Button small disabled={reopen.isPending} onClick={() => reopen.mutate({ body: { kind, subject } })}>
        Open again
      </Button>
    </Row>
  );
}

/** Puts what would mend a finding into the draft, and goes there. */
export function useFix() {
  const draft = useDraftHere();
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
