import { useState } from 'react';
import * as z from 'zod';
import { api, problemOf, type Schemas } from '../api/client';
import { Door } from './Door';
import { Forgotten } from './Forgotten';
import { PasskeyButton } from './PasskeyButton';
import { useShownPasskey } from './passkeys';
import { Acts, Button, Fault, Field, Notice, TextButton, useFields } from '../ui/kit';

export function SignIn({ session, onDone }: { session: Schemas['Session']; onDone: () => void }) {
  const demo = session.demoSignIn;
  const [forgotten, setForgotten] = useState(false);
  return (
    <Door
      says="Who may be in which course, from when to when, and why."
      school={session.school}
      title={forgotten ? 'Another password' : 'Sign in'}
    >
      {forgotten ? (
        <Forgotten onEnd={() => setForgotten(false)} />
      ) : (
        <>
          <SignInForm session={session} onDone={onDone} />
          <p>
            <TextButton onClick={() => setForgotten(true)}>I have forgotten my password</TextButton>
          </p>
        </>
      )}
      {demo !== undefined && (
        <Notice>
          <strong>This is the practice school.</strong>
          <p>
            Everything in it is invented. Sign in with <code>{demo.email}</code> and the password{' '}
            <code>{demo.password}</code>.
          </p>
        </Notice>
      )}
    </Door>
  );
}

const SHAPE = z.object({
  email: z.string().min(1, 'Your address is needed.'),
  password: z.string().min(1, 'Your password is needed.'),
  code: z.string(),
});

export function SignInForm({ session, onDone }: { session: Schemas['Session']; onDone: () => void }) {
  const form = useFields(SHAPE, { email: '', password: '', code: '' });
  const [asksCode, setAsksCode] = useState(false);
  const signIn = api.useMutation('post', '/api/session', {
    onSuccess: onDone,
    onError: (error) => {
      if (problemOf(error).secondFactor === true) setAsksCode(true);
      form.land(error);
    },
  });
  const passkey = useShownPasskey('/api/session/passkey', onDone);
  // that the code is asked for is no failure; that one was wrong is
  const onlyAsked =
    problemOf(signIn.error).secondFactor === true && (signIn.variables?.body.code ?? '') === '';
  const isFault = signIn.error !== null && !onlyAsked;
  return (
    <form
      noValidate
      onSubmit={(event) => void form.handleSubmit((body) => signIn.mutate({ body }))(event)}
      className="flex flex-col items-start gap-3.5"
    >
      {isFault && <Fault error={signIn.error} />}
      {passkey.error !== null && <Fault error={passkey.error} />}
      <Field label="E-mail address" type="email" autoComplete="username" first {...form.field('email')} />
      <Field label="Password" type="password" autoComplete="current-password" {...form.field('password')} />
      {asksCode && <CodeField {...form.field('code')} />}
      <Acts>
        <Button kind="main" disabled={signIn.isPending}>
          {signIn.isPending ? 'Signing in …' : 'Sign in'}
        </Button>
        <PasskeyButton session={session} shown={passkey} />
      </Acts>
    </form>
  );
}

/** The code of the second factor. */
export function CodeField(field: Omit<Parameters<typeof Field>[0], 'label'>) {
  return (
    <Field
      label="Code of your authenticator"
      autoComplete="one-time-code"
      hint="The six digits that it shows now, or one of the codes that you wrote down."
      first
      {...field}
    />
  );
}
