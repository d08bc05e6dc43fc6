import * as z from 'zod';
import { api } from '../api/client';
import { NEW_PASSWORD, NEW_PASSWORD_HINT } from '../team/password';
import { Button, Fault, Field, useFields } from '../ui/kit';
import { Door } from './Door';

const SHAPE = z.object({
  code: z.string().trim().min(1, 'The code is needed; the start has printed it.'),
  name: z.string().trim().min(1, 'Your name is needed.'),
  email: z.email('This is no e-mail address.'),
  password: NEW_PASSWORD,
});

/** Nobody can sign in yet: whoever has read the code that the start has printed makes the owner's account. */
export function FirstRun({ onDone }: { onDone: () => void }) {
  const form = useFields(SHAPE, { code: '', name: '', email: '', password: '' });
  const make = api.useMutation('post', '/api/owner', { onSuccess: onDone, onError: form.land });
  return (
    <Door
      says="The first account of a Yoru is its owner’s: whoever has started it makes it."
      title="Make the owner’s account"
    >
      <form
        noValidate
        onSubmit={(event) => void form.handleSubmit((body) => make.mutate({ body }))(event)}
        className="flex flex-col items-start gap-3.5"
      >
        {make.error !== null && <Fault error={make.error} />}
        <Field
          label="Code"
          autoComplete="off"
          hint="It stands in the words with which Yoru was started, and in the server’s log."
          first
          {...form.field('code')}
        />
        <Field label="Your name" autoComplete="name" {...form.field('name')} />
        <Field label="E-mail address" type="email" autoComplete="username" {...form.field('email')} />
        <Field
          label="Password"
          type="password"
          autoComplete="new-password"
          hint={NEW_PASSWORD_HINT}
          {...form.field('password')}
        />
        <Button kind="main" disabled={make.isPending}>
          {make.isPending ? 'Making it …' : 'Make the account'}
        </Button>
      </form>
    </Door>
  );
}
