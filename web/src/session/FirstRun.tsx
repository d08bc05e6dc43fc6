import * as z from 'zod';
import { api } from '../api/client';
import { NEW_PASSWORD } from '../team/password';
import { Button, Fault, Field, useFields } from '../ui/kit';
import { Door } from './Door';

const SHAPE = z.object({
  name: z.string().trim().min(1, 'Your name is needed.'),
  email: z.email('This is no e-mail address.'),
  password: NEW_PASSWORD,
});

/** Nobody can sign in yet: whoever comes first makes the owner's account. */
export function FirstRun({ onDone }: { onDone: () => void }) {
  const form = useFields(SHAPE, { name: '', email: '', password: '' });
  const make = api.useMutation('post', '/api/owner', { onSuccess: onDone, onError: form.land });
  return (
    <Door
      says="Nobody has used this Yoru yet. The first account is the owner’s."
      title="Make the owner’s account"
    >
      <form
        noValidate
        onSubmit={(event) => void form.handleSubmit((body) => make.mutate({ body }))(event)}
        className="flex flex-col items-start gap-3.5"
      >
        {make.error !== null && <Fault error={make.error} />}
        <Field label="Your name" autoComplete="name" first {...form.field('name')} />
        <Field label="E-mail address" type="email" autoComplete="username" {...form.field('email')} />
        <Field
          label="Password"
          type="password"
          autoComplete="new-password"
          hint="At least 10 characters; several words are easiest to remember."
          {...form.field('password')}
        />
        <Button kind="main" disabled={make.isPending}>
          {make.isPending ? 'Making it …' : 'Make the account'}
        </Button>
      </form>
    </Door>
  );
}
