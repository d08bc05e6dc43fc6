import { Link } from '@tanstack/react-router';
import { useTouch } from '../api/touch';
import { useState } from 'react';
import { z } from 'zod';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { FileButton } from '../ui/FileButton';
import { fileBody } from '../ui/files';
import { shownTime } from '../ui/dates';
import { Import } from './Import';
import { KINDS, STATES, type ImportKind } from './words';
import {
  Acts,
  Button,
  Fault,
  Headline,
  Input,
  Margin,
  Row,
  RowActs,
  Rows,
  RowWords,
  Screen,
  TextButton,
  useFields,
  Waiting,
} from '../ui/kit';

/** What goes out as files and feeds, and what of the past is brought in. */
export function Exchange() {
  const may = useMay();
  const [open, setOpen] = useState<number>();
  return (
    <Screen
      margin={
        <Margin label="Take out">
          <TakeOut />
          {may.setUp && <Feeds />}
        </Margin>
      }
    >
      <Headline>
        <h1>In and out</h1>
        <p>files of the past in, files and calendars out</p>
      </Headline>
      {may.setUp ? (
        open === undefined ? (
          <>
            <BringIn onOpen={setOpen} />
            <Latest onOpen={setOpen} />
          </>
        ) : (
          <Import key={open} id={open} onClose={() => setOpen(undefined)} />
        )
      ) : (
        <p className="text-soft">What is brought in is up to owners and operators.</p>
      )}
    </Screen>
  );
}

function BringIn({ onOpen }: { onOpen: (id: number) => void }) {
  const touch = useTouch();
  const settle = {
    onSuccess: (made: Schemas['ShownImport']) => onOpen(made.id),
    onSettled: () => touch('imports'),
  };
  const upload = api.useMutation('post', '/api/imports', settle);
  const send = (kind: ImportKind) => (file: File) => {
    const roster = kind === 'ENROLMENTS' && /\.zip$/i.test(file.name);
    const sent = {
      params: { query: { kind, name: file.name } },
      ...fileBody(file, roster ? 'application/zip' : 'text/csv'),
    };
    // the description of the API names no body for what is read as it comes
    upload.mutate(sent as unknown as Parameters<typeof upload.mutate>[0]);
  };
  return (
    <section>
      <h2>Bring in</h2>
      <Rows>
        {KINDS.map(({ kind, title, text, accept }) => (
          <Row key={kind}>
            <RowWords>
              <strong>{title}</strong>
              <span>{text}</span>
            </RowWords>
            <RowActs>
              <FileButton
                label="Choose a file"
                accept={accept}
                disabled={upload.isPending}
                onFile={send(kind)}
              />
            </RowActs>
          </Row>
        ))}
      </Rows>
      {upload.isPending && <Waiting what="the file" />}
      {upload.error !== null && <Fault error={upload.error} />}
      <p className="text-soft">
        Nothing becomes a fact before you have seen what each row will come to. The same file again changes
        nothing.
      </p>
    </section>
  );
}

function Latest({ onOpen }: { onOpen: (id: number) => void }) {
  const { zone } = useSession();
  const imports = api.useQuery('get', '/api/imports', undefined, { refetchInterval: 3_000 });
  if (imports.error !== null) return <Fault error={imports.error} />;
  if (imports.data === undefined || imports.data.length === 0) return null;
  return (
    <section>
      <h2>Brought in lately</h2>
      <Rows aria-label="Imports">
        {imports.data.map((one) => (
          <Row key={one.id}>
            <RowWords>
              <strong>{one.name}</strong>
              <span>
                {KINDS.find((kind) => kind.kind === one.kind)?.title} · {one.total - one.left} of {one.total}{' '}
                rows, {STATES[one.state]} · {one.madeBy} · {shownTime(one.madeAt, zone)}
              </span>
            </RowWords>
            <RowActs>
              <Button onClick={() => onOpen(one.id)}>Look</Button>
            </RowActs>
          </Row>
        ))}
      </Rows>
    </section>
  );
}

function TakeOut() {
  const asOf = useAsOf();
  const at = asOf.instant === undefined ? '' : `?at=${asOf.instant}`;
  const files = [
    { href: `/api/people.csv${at}`, title: 'People', text: 'CSV' },
    {
      href: `/api/exports/access.csv${at}`,
      title: 'Access of everybody',
      text: 'CSV, as evaluate writes it',
    },
    { href: `/api/exports/oneroster.zip${at}`, title: 'Who is in which course', text: 'OneRoster 1.1 CSV' },
  ];
  return (
    <section>
      <h2>Take out</h2>
      <ul className="mt-1 mb-2.5 grid gap-1.5">
        {files.map((file) => (
          <li key={file.href}>
            <a href={file.href} download>
              {file.title}
            </a>{' '}
            <span className="text-soft">{file.text}</span>
          </li>
        ))}
        <li>
          <Link to="/orders">Orders</Link> <span className="text-soft">CSV of what is shown there</span>
        </li>
      </ul>
    </section>
  );
}

const FEED = z.object({ name: z.string().trim().min(1).max(100) });

function Feeds() {
  const { zone } = useSession();
  const touch = useTouch();
  const feeds = api.useQuery('get', '/api/feeds');
  const form = useFields(FEED, { name: '' });
  const settle = { onSettled: () => touch('feeds') };
  const make = api.useMutation('post', '/api/feeds', { ...settle, onSuccess: () => form.reset() });
  const revoke = api.useMutation('delete', '/api/feeds/{id}', settle);
  const made = feeds.data?.some((feed) => feed.id === make.data?.id) === true ? make.data : undefined;
  const fault = make.error ?? revoke.error ?? feeds.error;
  const submit = form.handleSubmit((body) => make.mutate({ body }));
  return (
    <section>
      <h2>Calendars of endings</h2>
      <p className="text-soft">
        Read by any calendar program under a secret address. Whoever has the address sees names.
      </p>
      <ul className="mt-1 mb-2.5 grid gap-1.5">
        {feeds.data?.map((feed) => (
          <li key={feed.id}>
            <strong>{feed.name}</strong>{' '}
            <span className="text-soft">
              {feed.readAt === undefined ? 'not read yet' : `read ${shownTime(feed.readAt, zone)}`}
            </span>{' '}
            <TextButton
              disabled={revoke.isPending}
              onClick={() => revoke.mutate({ params: { path: { id: feed.id } } })}
            >
              Take back
            </TextButton>
          </li>
        ))}
      </ul>
      {made?.address !== undefined && (
        <p className="wrap-anywhere" role="status">
          Its address, shown this once: <code>{made.address}</code>
        </p>
      )}
      <Acts
        as="form"
        className="items-center"
        aria-label="A new calendar"
        onSubmit={(event) => void submit(event)}
      >
        <Input
          aria-label="For whom the calendar is"
          placeholder="For whom?"
          maxLength={100}
          {...form.tick('name')}
        />
        <Button disabled={form.watch('name').trim() === '' || make.isPending}>Make one</Button>
      </Acts>
      {fault !== null && <Fault error={fault} />}
    </section>
  );
}
