import { useQueryClient } from '@tanstack/react-query';
import { useState, type SyntheticEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Field } from '../ui/Field';
import { Fault } from '../ui/parts';

/** What people at the desk want remembered; none of it goes to a system. */
export function Notes({ person, writable }: { person: Schemas['PersonShown']; writable: boolean }) {
  const { zone } = useSession();
  const queries = useQueryClient();
  const [text, setText] = useState('');
  const write = api.useMutation('post', '/api/people/{id}/notes', {
    onSuccess: () => setText(''),
    onSettled: () => queries.invalidateQueries(),
  });
  if (!writable && person.notes.length === 0) return null;
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (text.trim() !== '' && !write.isPending) {
      write.mutate({ params: { path: { id: person.id } }, body: { text } });
    }
  };
  return (
    <section aria-label="Notes">
      <h2>Notes</h2>
      <ol className="happened">
        {person.notes.map((note) => (
          <li key={`${note.at} ${note.text}`}>
            <time dateTime={note.at}>{shownTime(note.at, zone)}</time>
            <strong>{note.operator}</strong>
            <span>{note.text}</span>
          </li>
        ))}
      </ol>
      {writable && (
        <form className="acts acts-line" onSubmit={submit} aria-label="New note">
          <Field label="Note" value={text} onChange={setText} maxLength={2000} />
          <button className="btn btn-sm" disabled={text.trim() === '' || write.isPending}>
            Keep the note
          </button>
        </form>
      )}
      {write.error !== null && <Fault error={write.error} />}
    </section>
  );
}
