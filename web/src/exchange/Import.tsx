import { useTouch } from '../api/touch';
import { useEffect, useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { KINDS, STATES } from './words';
import { Acts, Button, buttonLook, Fault, Panel, Progress, Select, Table, Waiting } from '../ui/kit';

type Shown = Schemas['ShownImport'];
type Matching = Schemas['ImportMatching'];
type Field = Schemas['ImportField']['field'];

const DATES: Record<Matching['dates'], string> = {
  ISO: '2026-03-01',
  DAY_FIRST: '01/03/2026, the day first',
  MONTH_FIRST: '03/01/2026, the month first',
};

/** One table: its columns matched, what each row will come to, and how far it is. */
export function Import({ id, onClose }: { id: number; onClose: () => void }) {
  const touch = useTouch();
  const about = { params: { path: { id } } };
  const one = api.useQuery('get', '/api/imports/{id}', about, {
    refetchInterval: (query) => (query.state.data?.state === 'RUNNING' ? 1_000 : false),
  });
  const remove = api.useMutation('delete', '/api/imports/{id}', {
    onSuccess: onClose,
    onSettled: () => touch('imports'),
  });
  const data = one.data;
  const fault = one.error ?? remove.error;
  return (
    <article className="grid gap-3.5">
      <Acts className="items-center">
        <Button small onClick={onClose}>
          All imports
        </Button>
        {data !== undefined && data.state !== 'RUNNING' && (
          <Button small disabled={remove.isPending} onClick={() => remove.mutate(about)}>
            Throw the table away
          </Button>
        )}
      </Acts>
      {fault !== null && <Fault error={fault} />}
      {data === undefined && one.error === null && <Waiting what="the table" />}
      {data !== undefined && (
        <>
          <h2>
            {data.name}{' '}
            <span className="text-soft">
              {KINDS.find((kind) => kind.kind === data.kind)?.title}, {counted(data.total, 'row', 'rows')}
            </span>
          </h2>
          {data.state === 'MATCHING' ? <Match job={data} /> : <HowFar job={data} />}
        </>
      )}
    </article>
  );
}

function Match({ job }: { job: Shown }) {
  const touch = useTouch();
  const [matching, setMatching] = useState<Matching>(job.matching);
  const [settled, still] = useSettled(matching, 300);
  const about = { params: { path: { id: job.id } } };
  const look = api.useMutation('put', '/api/imports/{id}/matching');
  const start = api.useMutation('post', '/api/imports/{id}/start', {
    onSettled: () => touch('imports'),
  });
  const { mutate } = look;
  const text = JSON.stringify(settled);
  useEffect(() => {
    mutate({ params: { path: { id: job.id } }, body: JSON.parse(text) as Matching });
  }, [mutate, job.id, text]);
  const current = still && !look.isPending ? look.data : undefined;
  const put = (field: Field, column: string) => {
    const others = Object.entries(matching.columns).filter(([other]) => other !== field);
    const columns: Matching['columns'] = Object.fromEntries(
      column === '' ? others : [...others, [field, column]],
    );
    setMatching({ ...matching, columns });
  };
  return (
    <>
      <section className="grid gap-3.5">
        <Table>
          <thead>
            <tr>
              <th scope="col">What it is</th>
              <th scope="col">In which column</th>
              <th scope="col">As in the first rows</th>
            </tr>
          </thead>
          <tbody>
            {job.fields.map(({ field, title, required }) => {
              const column = matching.columns[field] ?? '';
              const at = job.columns.indexOf(column);
              return (
                <tr key={field}>
                  <td>
                    {title} {required && <span className="text-soft">needed</span>}
                  </td>
                  <td>
                    <Select
                      aria-label={`Column of: ${title}`}
                      value={column}
                      onChange={(event) => put(field, event.target.value)}
                    >
                      <option value="">{required ? 'choose one' : 'none'}</option>
                      {job.columns.map((name) => (
                        <option key={name} value={name}>
                          {name}
                        </option>
                      ))}
                    </Select>
                  </td>
                  <td className="text-soft">
                    {at < 0
                      ? ''
                      : job.sample
                          .slice(0, 3)
                          .map((row) => row[at] ?? '')
                          .filter((cell) => cell !== '')
                          .join(' · ')}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
        <Acts as="label" className="items-center">
          <span>Days are written as</span>
          <Select
            value={matching.dates}
            onChange={(event) => setMatching({ ...matching, dates: event.target.value as Matching['dates'] })}
          >
            {Object.entries(DATES).map(([dates, words]) => (
              <option key={dates} value={dates}>
                {words}
              </option>
            ))}
          </Select>
        </Acts>
        {job.kind === 'ORDERS' && matching.columns.PAID === undefined && (
          <p className="text-soft">
            No column says whether they were paid: all of them count as paid when placed.
          </p>
        )}
      </section>
      {(look.error ?? start.error) !== null && <Fault error={look.error ?? start.error} />}
      {current === undefined && look.error === null && <Waiting what="what each row comes to" />}
      {current !== undefined && <Preview preview={current} />}
      <Acts>
        <Button
          kind="main"
          disabled={current === undefined || current.taken === 0 || start.isPending}
          onClick={() => start.mutate(about)}
        >
          {current === undefined ? 'Bring in' : `Bring ${counted(current.taken, 'row', 'rows')} in`}
        </Button>
      </Acts>
    </>
  );
}

const FATES: Record<Schemas['RowFate']['fate'], string> = {
  NEW: 'is brought in',
  KNOWN: 'is known already',
  FAULTY: 'is not taken',
};

function Preview({ preview }: { preview: Schemas['ImportPreview'] }) {
  if (preview.missing.length > 0) {
    return <p className="text-warning">Some columns that are needed are not matched yet.</p>;
  }
  return (
    <section>
      <h3>What will come of it</h3>
      <p>
        {counted(preview.taken, 'row is', 'rows are')} brought in, {preview.known} known already,{' '}
        {preview.faulty} not taken because something is wrong.
      </p>
      <Table>
        <thead>
          <tr>
            <th scope="col" className="text-right whitespace-nowrap">
              Row
            </th>
            <th scope="col">Who</th>
            <th scope="col">What becomes of it</th>
          </tr>
        </thead>
        <tbody>
          {preview.rows.map((row) => (
            <tr key={row.row}>
              <td className="text-right whitespace-nowrap">{row.row}</td>
              <td>{row.person}</td>
              <td>
                {FATES[row.fate]}
                {row.said !== '' && `: ${row.said}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {preview.entries > preview.rows.length && (
        <p className="text-soft">and {preview.entries - preview.rows.length} more</p>
      )}
    </section>
  );
}

function HowFar({ job }: { job: Shown }) {
  const touch = useTouch();
  const settle = { onSettled: () => touch('imports') };
  const stop = api.useMutation('post', '/api/imports/{id}/stop', settle);
  const start = api.useMutation('post', '/api/imports/{id}/start', settle);
  const about = { params: { path: { id: job.id } } };
  const fault = stop.error ?? start.error;
  return (
    <Panel>
      <p role="status">
        <strong>{STATES[job.state]}</strong>: {job.total - job.left} of {job.total} rows
      </p>
      <Progress label="How far it is" done={job.total - job.left} of={job.total} />
      <p>
        {job.taken} brought in, {job.known} known already, {job.faulty} not taken.
      </p>
      {fault !== null && <Fault error={fault} />}
      <Acts>
        {job.state === 'RUNNING' && (
          <Button disabled={stop.isPending} onClick={() => stop.mutate(about)}>
            Stop it here
          </Button>
        )}
        {job.state === 'STOPPED' && (
          <Button kind="main" disabled={start.isPending} onClick={() => start.mutate(about)}>
            Go on
          </Button>
        )}
        {job.faulty > 0 && (
          <a className={buttonLook()} href={`/api/imports/${job.id}/faulty.csv`} download>
            {counted(job.faulty, 'row', 'rows')} to mend
          </a>
        )}
      </Acts>
      {job.state === 'RUNNING' && (
        <p className="text-soft">It goes on when you leave this page, and after a server was started anew.</p>
      )}
    </Panel>
  );
}
