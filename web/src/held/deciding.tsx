import { useTouch } from '../api/touch';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { WhatFollows } from '../desk/WhatFollows';
import { shownDate } from '../ui/dates';
import { say } from '../ui/said';
import { Button, Fault } from '../ui/kit';

export type Case = Schemas['HeldCase'];

/** "Order 2041 placed: First Hive €90.00 · 3 Nov 2026 · paid · fulfilled": only what is new in each. */
export function told(reports: Case['reports'], zone: string): string {
  const [first, ...rest] = reports;
  if (first === undefined) return '';
  const begin = /^Order \S+ /.exec(first.title)?.[0] ?? '';
  return [
    first.text === '' ? first.title : `${first.title}: ${first.text}`,
    shownDate(first.at, zone),
    ...rest.map((report) =>
      begin !== '' && report.title.startsWith(begin) ? report.title.slice(begin.length) : report.title,
    ),
  ].join(' · ');
}

/** Lets in or leaves out as many as wanted. */
export function Decide({ about, onDone }: { about: string[]; onDone: () => void }) {
  const touch = useTouch();
  const [sure, setSure] = useState(false);
  const settle = (words: string) => ({
    onSuccess: () => {
      say(`${about.length} ${words}.`);
      setSure(false);
      onDone();
    },
    onSettled: () => touch('access'),
  });
  const release = api.useMutation('post', '/api/held/release', settle('let in'));
  const leaveOut = api.useMutation('post', '/api/held/leave-out', settle('left out'));
  const busy = release.isPending || leaveOut.isPending;
  const fault = release.error ?? leaveOut.error;
  const many = about.length;
  return (
    <>
      {sure ? (
        <>
          <span role="status">
            {many === 1 ? 'It never becomes a fact' : `These ${many} never become facts`}, nor what is still
            said about {many === 1 ? 'it' : 'them'}.
          </span>
          <Button disabled={busy} onClick={() => leaveOut.mutate({ body: { about } })}>
            Leave out {many}
          </Button>
          <Button disabled={busy} onClick={() => setSure(false)}>
            Leave it
          </Button>
        </>
      ) : (
        <>
          <Button
            kind="main"
            disabled={busy || many === 0}
            onClick={() => release.mutate({ body: { about } })}
          >
            {release.isPending ? 'Letting in …' : many === 0 ? 'Let in' : `Let in ${many}`}
          </Button>
          <Button disabled={busy || many === 0} onClick={() => setSure(true)}>
            Leave out …
          </Button>
        </>
      )}
      {fault !== null && <Fault error={fault} />}
    </>
  );
}

/** What would come of one of them. */
export function Follows({ one }: { one: Case }) {
  const consequence = api.useQuery('get', '/api/held/consequence', {
    params: { query: { about: one.about } },
  });
  return (
    <section>
      <h2>If {one.name} is let in</h2>
      {consequence.error !== null && <Fault error={consequence.error} />}
      {consequence.data !== undefined && (
        <WhatFollows consequence={{ people: consequence.data, nothing: [], seatsGone: 0 }} />
      )}
      <p className="text-soft">It counts from when it happened, as if it had never waited.</p>
    </section>
  );
}
