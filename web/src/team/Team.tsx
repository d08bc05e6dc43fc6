import { useTouch } from '../api/touch';
import { useState } from 'react';
import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { counted } from '../ui/words';
import { OwnersViews } from './OwnersViews';
import { isRole, ORDER, ROLES } from './roles';
import {
  ActForm,
  Acts,
  Button,
  Chain,
  Check,
  Checkbox,
  ConfirmButton,
  CopyText,
  Fault,
  Field,
  FieldFrame,
  Headline,
  Margin,
  Notice,
  Panel,
  Row,
  RowActs,
  Rows,
  RowWords,
  Screen,
  Select,
  Step,
  Two,
  useFields,
  Waiting,
} from '../ui/kit';

/** Who works with Yoru, and what they may do. */
export function Team() {
  const team = api.useQuery('get', '/api/team');
  return (
    <Screen
      margin={
        <Margin label="What each may do">
          <section>
            <h2>What each may do</h2>
            <Chain>
              {ORDER.map((role) => (
                <Step tone="soft" key={role}>
                  <strong>{ROLES[role].title}</strong>
                  <span>{ROLES[role].may}</span>
                </Step>
              ))}
            </Chain>
            <p className="text-soft">A change counts at once, also where somebody is signed in.</p>
          </section>
        </Margin>
      }
    >
      <Headline>
        <h1>Team</h1>
        {team.data !== undefined && <p>{counted(team.data.length, 'person', 'people')}</p>}
        <OwnersViews />
      </Headline>
      {team.error !== null && <Fault error={team.error} />}
      {team.data === undefined && team.error === null && <Waiting what="the team" />}
      {team.data !== undefined && (
        <Rows aria-label="Team">
          {team.data.map((member) => (
            <MemberRow key={member.id} member={member} />
          ))}
        </Rows>
      )}
      <Add />
    </Screen>
  );
}

function MemberRow({ member }: { member: Schemas['Member'] }) {
  const { email } = useSession();
  const touch = useTouch();
  const [sure, setSure] = useState(false);
  const settle = { onSettled: () => touch('team') };
  const change = api.useMutation('put', '/api/team/{id}', settle);
  const remove = api.useMutation('delete', '/api/team/{id}', settle);
  const tell = api.useMutation('put', '/api/team/{id}/told', settle);
  const invite = api.useMutation('post', '/api/team/{id}/invitation', settle);
  const withoutFactor = api.useMutation('delete', '/api/team/{id}/second-factor', settle);
  const withoutPasskeys = api.useMutation('delete', '/api/team/{id}/passkeys', settle);
  const about = { params: { path: { id: member.id } } };
  const fault = [change, remove, tell, invite, withoutFactor, withoutPasskeys].find(
    ({ error }) => error !== null,
  )?.error;
  return (
    <Row>
      <RowWords>
        <strong>
          {member.name}
          {member.email === email && ' (you)'}
        </strong>
        <span>
          {member.email}
          {member.invited && ' · invited, has chosen no password yet'}
          {member.secondFactor && ' · with a second factor'}
          {member.passkeys > 0 && ` · ${counted(member.passkeys, 'passkey', 'passkeys')}`}
        </span>
        {invite.data !== undefined && <Invited invited={invite.data} />}
        {fault !== undefined && <Fault error={fault} />}
      </RowWords>
      <RowActs>
        <Check>
          <Checkbox
            checked={member.told}
            disabled={tell.isPending}
            onChange={(event) => tell.mutate({ ...about, body: { told: event.target.checked } })}
          />
          reads what follow-ups tell
        </Check>
        <Select
          aria-label={`What ${member.name} may do`}
          value={member.role}
          disabled={change.isPending}
          onChange={(event) => {
            if (isRole(event.target.value)) change.mutate({ ...about, body: { role: event.target.value } });
          }}
        >
          {ORDER.map((role) => (
            <option key={role} value={role}>
              {ROLES[role].title}
            </option>
          ))}
        </Select>
        {member.email !== email && (
          <Button
            aria-label={`Invite ${member.name} to choose a password`}
            disabled={invite.isPending}
            onClick={() => invite.mutate(about)}
          >
            {member.invited ? 'Invite again' : 'New password'}
          </Button>
        )}
        {member.secondFactor && (
          <Button
            aria-label={`Remove the second factor of ${member.name}`}
            disabled={withoutFactor.isPending}
            onClick={() => withoutFactor.mutate(about)}
          >
            Without factor
          </Button>
        )}
        {member.passkeys > 0 && (
          <Button
            aria-label={`Remove the passkeys of ${member.name}`}
            disabled={withoutPasskeys.isPending}
            onClick={() => withoutPasskeys.mutate(about)}
          >
            Without passkeys
          </Button>
        )}
        {sure ? (
          <>
            <Button disabled={remove.isPending} onClick={() => remove.mutate(about)}>
              {member.name} can do nothing more
            </Button>
            <Button onClick={() => setSure(false)}>Leave it</Button>
          </>
        ) : (
          <Button aria-label={`Remove ${member.name}`} onClick={() => setSure(true)}>
            Remove
          </Button>
        )}
      </RowActs>
    </Row>
  );
}

const SHAPE = z.object({
  name: z.string().trim().min(1, 'A name is needed.').max(100),
  email: z.email('This is no e-mail address.'),
  role: z.enum(ORDER),
});

function Add() {
  const touch = useTouch();
  const form = useFields<z.infer<typeof SHAPE>>(SHAPE, { email: '', name: '', role: 'SUPPORT' });
  const add = api.useMutation('post', '/api/team', {
    onSuccess: () => form.reset(),
    onError: form.land,
    onSettled: () => touch('team'),
  });
  return (
    <section>
      <h2>Somebody else</h2>
      <Panel>
        <ActForm
          aria-label="Somebody else"
          className="flex flex-col gap-3"
          noValidate
          onConfirm={() =>
            void form.handleSubmit((body) => {
              if (!add.isPending) add.mutate({ body });
            })()
          }
        >
          <Two>
            <Field label="Name" {...form.field('name')} />
            <Field
              label="E-mail address"
              type="email"
              hint="A letter there leads to choosing a password that nobody else knows. Without a mailbox you are shown what to hand over."
              {...form.field('email')}
            />
            <FieldFrame label="What they may do" hint={ROLES[form.watch('role')].may}>
              {(tied) => (
                <Select {...form.field('role')} {...tied}>
                  {ORDER.map((role) => (
                    <option key={role} value={role}>
                      {ROLES[role].title}
                    </option>
                  ))}
                </Select>
              )}
            </FieldFrame>
          </Two>
          {add.error !== null && <Fault error={add.error} />}
          {add.data !== undefined && <Invited invited={add.data} />}
          <Acts>
            <ConfirmButton disabled={add.isPending}>Invite them</ConfirmButton>
          </Acts>
        </ActForm>
      </Panel>
    </section>
  );
}

/** What has become of an invitation. */
function Invited({ invited }: { invited: Schemas['Invited'] }) {
  return (
    <Notice>
      {invited.link === undefined ? (
        <p role="status">
          A letter to {invited.member.email} is on its way; what it leads to is good for four days.
        </p>
      ) : (
        <>
          <p role="status">
            No mailbox is connected that could carry a letter. Hand this to {invited.member.name} yourself; it
            is shown only now, and good for four days.
          </p>
          <CopyText text={invited.link} label="Where they choose a password" />
        </>
      )}
    </Notice>
  );
}
