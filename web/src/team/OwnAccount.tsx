import { useTouch } from '../api/touch';
import * as z from 'zod';
import { api } from '../api/client';
import { useSession } from '../session/session';
import { Acts, Button, Fault, Field, Headline, Panel, Screen, Two, useFields } from '../ui/kit';
import { NEW_PASSWORD } from './password';
import { Passkeys } from './Passkeys';
import { ROLES } from './roles';
import { SecondFactor } from './SecondFactor';

const SHAPE = z.object({
  present: z.string().min(1, 'Your present password is needed.'),
  next: NEW_PASSWORD,
});

/** Who is signed in, and their password. */
export function OwnAccount() {
  const { name, email, role } = useSession();
  const touch = useTouch();
  const form = useFields(SHAPE, { present: '', next: '' });
  const change = api.useMutation('put', '/api/session/password', {
    onSuccess: () => {
      form.reset();
      return touch('team');
    },
    onError: form.land,
  });
  return (
    <Screen>
      <Headline>
        <h1>{name}</h1>
        <p>
          {email}
          {role !== undefined && ` · ${ROLES[role].title}: ${ROLES[role].may}`}
        </p>
      </Headline>
      <section className="max-w-4xl">
        <h2>Another password</h2>
        <Panel
          as="form"
          aria-label="Another password"
          noValidate
          onSubmit={(event) => void form.handleSubmit((body) => change.mutate({ body }))(event)}
        >
          <Two>
            <Field
              label="Your password until now"
              type="password"
              autoComplete="current-password"
              {...form.field('present')}
            />
            <Field
              label="Your new password"
              type="password"
              autoComplete="new-password"
              hint="At least 10 characters. Wherever else you are signed in, you are signed out."
              {...form.field('next')}
            />
          </Two>
          {change.error !== null && <Fault error={change.error} />}
          {change.isSuccess && <p role="status">Your password is changed.</p>}
          <Acts>
            <Button kind="main" disabled={change.isPending}>
              Change it
            </Button>
          </Acts>
        </Panel>
      </section>
      <Passkeys />
      <SecondFactor />
    </Screen>
  );
}
