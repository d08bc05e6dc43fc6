import { useState } from 'react';
import * as z from 'zod';
import { api } from '../api/client';
import { useTouch } from '../api/touch';
import { useSession } from '../session/session';
import { Acts, Button, buttonLook, CopyText, Fault, Field, Panel, useFields } from '../ui/kit';

const SHAPE = z.object({ code: z.string().trim().min(1, 'The code is needed.') });

/** Codes of an authenticator, asked for beside the password. */
export function SecondFactor() {
  const { secondFactor } = useSession();
  const touch = useTouch();
  const [spare, setSpare] = useState<string[]>();
  const begin = api.useMutation('post', '/api/session/second-factor');
  const remove = api.useMutation('delete', '/api/session/second-factor', { onSettled: () => touch('team') });
  return (
    <section className="max-w-4xl">
      <h2>A second factor</h2>
      <Panel aria-label="A second factor" as="section">
        {spare !== undefined ? (
          <SpareCodes codes={spare} onDone={() => setSpare(undefined)} />
        ) : secondFactor ? (
          <>
            <p>Your authenticator is asked for a code whenever you sign in.</p>
            {remove.error !== null && <Fault error={remove.error} />}
            <Acts>
              <Button disabled={remove.isPending} onClick={() => remove.mutate({})}>
                Do without it
              </Button>
            </Acts>
          </>
        ) : begin.data !== undefined ? (
          <Confirm
            begun={begin.data}
            onDone={(codes) => {
              setSpare(codes);
              begin.reset();
              void touch('team');
            }}
          />
        ) : (
          <>
            <p className="text-soft">
              With it nobody gets in by your password alone: an authenticator application on your telephone or
              computer shows a code that changes every thirty seconds.
            </p>
            {begin.error !== null && <Fault error={begin.error} />}
            <Acts>
              <Button kind="main" disabled={begin.isPending} onClick={() => begin.mutate({})}>
                Set it up
              </Button>
            </Acts>
          </>
        )}
      </Panel>
    </section>
  );
}

interface Begun {
  secret: string;
  address: string;
  picture: { size: number; path: string };
}

function Confirm({ begun, onDone }: { begun: Begun; onDone: (codes: string[]) => void }) {
  const form = useFields(SHAPE, { code: '' });
  const confirm = api.useMutation('put', '/api/session/second-factor', {
    onSuccess: ({ codes }) => onDone(codes),
    onError: form.land,
  });
  const { size, path } = begun.picture;
  return (
    <form
      noValidate
      className="flex flex-wrap gap-6"
      onSubmit={(event) => void form.handleSubmit((body) => confirm.mutate({ body }))(event)}
    >
      <svg
        role="img"
        aria-label="The secret as a picture, for the camera of a telephone"
        viewBox={`0 0 ${size} ${size}`}
        className="size-48 rounded-field bg-white text-black"
        shapeRendering="crispEdges"
      >
        <path d={path} fill="currentColor" />
      </svg>
      <div className="flex min-w-64 flex-1 flex-col gap-3">
        <p>Have your authenticator look at the picture, or type this into it:</p>
        <CopyText text={begun.secret} label="Secret" />
        <p>
          <a className={buttonLook({ small: true })} href={begun.address}>
            Open it on this device
          </a>
        </p>
        {confirm.error !== null && <Fault error={confirm.error} />}
        <Field label="The code that it shows now" autoComplete="one-time-code" {...form.field('code')} />
        <Acts>
          <Button kind="main" disabled={confirm.isPending}>
            Ask for it from now on
          </Button>
        </Acts>
      </div>
    </form>
  );
}

function SpareCodes({ codes, onDone }: { codes: string[]; onDone: () => void }) {
  return (
    <>
      <p>
        <strong>Write these down; they are shown only now.</strong> Each lets you in once where your
        authenticator is lost.
      </p>
      <ul className="grid max-w-md grid-cols-2 gap-1 font-mono">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <Acts>
        <Button kind="main" onClick={onDone}>
          I have them
        </Button>
      </Acts>
    </>
  );
}
