import { useState, type SubmitEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { Fault } from '../ui/parts';
import { Door } from './Door';
import { Field } from '../ui/Field';

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
        <div className="note">
          <strong>This is the practice school.</strong>
          <p>
            Everything in it is invented. Sign in with <code>{demo.email}</code> and the password{' '}
            <code>{demo.password}</code>.
          </p>
        </div>
      )}
    </Door>
  );
}

export function SignInForm({ onDone }: { onDone: () => void }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const signIn = api.useMutation('post', '/api/session', { onSuccess: onDone });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    signIn.mutate({ body: { email, password } });
  };
  return (
    <form onSubmit={submit} className="form">
      {signIn.error !== null && <Fault error={signIn.error} />}
      <Field
        required
        label="E-mail address"
        type="email"
        autoComplete="username"
        value={email}
        onChange={setEmail}
        first
      />
      <Field
        required
        label="Password"
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={setPassword}
      />
      <button className="btn btn-primary" disabled={signIn.isPending}>
        {signIn.isPending ? 'Signing in …' : 'Sign in'}
      </button>
    </form>
  );
}
