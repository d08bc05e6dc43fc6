import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { Door } from './Door';
import { Button, Fault, Field, Notice, useFields } from '../ui/kit';

export function SignIn({ session, onDone }: { session: Schemas['Session']; onDone: () => void }) {
  const demo = session.demoSignIn;
  return (
    <Door
      says="Who may be in which course, from when to when, and why."
      school={session.school}
      title="Sign in"
    >
      <SignInForm onDone={onDone} />
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
});

export function SignInForm({ onDone }: { onDone: () => void }) {
  const form = useFields(SHAPE, { email: '', password: '' });
  const signIn = api.useMutation('post', '/api/session', { onSuccess: onDone, onError: form.land });
  return (
    <form
      noValidate
      onSubmit={(event) => void form.handleSubmit((body) => signIn.mutate({ body }))(event)}
      className="flex flex-col items-start gap-3.5"
    >
      {signIn.error !== null && <Fault error={signIn.error} />}
      <Field label="E-mail address" type="email" autoComplete="username" first {...form.field('email')} />
      <Field label="Password" type="password" autoComplete="current-password" {...form.field('password')} />
      <Button kind="main" disabled={signIn.isPending}>
        {signIn.isPending ? 'Signing in …' : 'Sign in'}
      </Button>
    </form>
  );
}
