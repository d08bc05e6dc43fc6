import { useQueryClient } from '@tanstack/react-query';
import { useState, type SyntheticEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { Field } from '../ui/Field';
import { Fault, Margin, Screen, Waiting } from '../ui/parts';
import { counted } from '../ui/words';
import { isRole, ORDER, ROLES, type Role } from './roles';

/** Who works with Yoru, and what they may do. */
export function Team() {
  const team = api.useQuery('get', '/api/team');
  return (
    <Screen
      margin={
        <Margin label="What each may do">
          <section>
            <h2>What each may do</h2>
            <ol className="chain">
              {ORDER.map((role) => (
                <li key={role} className="step step-soft">
                  <strong>{ROLES[role].title}</strong>
                  <span>{ROLES[role].may}</span>
                </li>
              ))}
            </ol>
            <p className="soft">A change counts at once, also where somebody is signed in.</p>
          </section>
        </Margin>
      }
    >
      <div className="headline">
        <h1>Team</h1>
        {team.data !== undefined && <p>{counted(team.data.length, 'person', 'people')}</p>}
      </div>
      {team.error !== null && <Fault error={team.error} />}
      {team.data === undefined && team.error === null && <Waiting what="the team" />}
      {team.data !== undefined && (
        <ul className="rows" aria-label="Team">
          {team.data.map((member) => (
            <MemberRow key={member.id} member={member} />
          ))}
        </ul>
      )}
      <Add />
    </Screen>
  );
}

function MemberRow({ member }: { member: Schemas['Member'] }) {
  const { email } = useSession();
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const settle = { onSettled: () => queries.invalidateQueries() };
  const change = api.useMutation('put', '/api/team/{id}', settle);
  const remove = api.useMutation('delete', '/api/team/{id}', settle);
  const about = { params: { path: { id: member.id } } };
  const fault = change.error ?? remove.error;
  return (
    <li className="row">
      <div className="row-words">
        <strong>
          {member.name}
          {member.email === email && ' (you)'}
        </strong>
        <span>{member.email}</span>
        {fault !== null && <Fault error={fault} />}
      </div>
      <div className="row-acts">
        <select
          className="select"
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
        </select>
        {sure ? (
          <>
            <button className="btn" disabled={remove.isPending} onClick={() => remove.mutate(about)}>
              {member.name} can do nothing more
            </button>
            <button className="btn" onClick={() => setSure(false)}>
              Leave it
            </button>
          </>
        ) : (
          <button className="btn" aria-label={`Remove ${member.name}`} onClick={() => setSure(true)}>
            Remove
          </button>
        )}
      </div>
    </li>
  );
}

const NOBODY = { email: '', name: '', password: '', role: 'SUPPORT' as Role };

function Add() {
  const queries = useQueryClient();
  const [member, setMember] = useState(NOBODY);
  const add = api.useMutation('post', '/api/team', {
    onSuccess: () => setMember(NOBODY),
    onSettled: () => queries.invalidateQueries(),
  });
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (!add.isPending) add.mutate({ body: member });
  };
  return (
    <section>
      <h2>Somebody else</h2>
      <form className="panel" aria-label="Somebody else" onSubmit={submit}>
        <div className="two">
          <Field
            label="Name"
            value={member.name}
            onChange={(name) => setMember({ ...member, name })}
            maxLength={100}
            required
          />
          <Field
            label="E-mail address"
            type="email"
            value={member.email}
            onChange={(email) => setMember({ ...member, email })}
            required
          />
          <Field
            label="Password to begin with"
            type="password"
            autoComplete="new-password"
            value={member.password}
            onChange={(password) => setMember({ ...member, password })}
            hint="At least 10 characters. Tell it to them yourself; Yoru does not send it."
            required
          />
          <div className="field">
            <label htmlFor="new-role">What they may do</label>
            <select
              id="new-role"
              className="select"
              value={member.role}
              onChange={(event) => {
                if (isRole(event.target.value)) setMember({ ...member, role: event.target.value });
              }}
            >
              {ORDER.map((role) => (
                <option key={role} value={role}>
                  {ROLES[role].title}
                </option>
              ))}
            </select>
            <div className="soft">{ROLES[member.role].may}</div>
          </div>
        </div>
        {add.error !== null && <Fault error={add.error} />}
        <div className="acts">
          <button className="btn btn-primary" disabled={add.isPending}>
            Add them
          </button>
        </div>
      </form>
    </section>
  );
}
