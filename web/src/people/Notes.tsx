import { useTouch } from '../api/touch';
import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Button, Events, Fault, Field, useFields } from '../ui/kit';

const SHAPE = z.object({
  text: z.string().trim().min(1, 'There is nothing to keep yet.').max(2000, 'At most 2,000 characters.'),
});

/** What people at the desk want remembered; none of it goes to a system. */
export function Notes({ person, writable }: { person: Schemas['PersonShown']; writable: boolean }) {
  const { zone } = useSession();
  const touch = useTouch();
  const form = useFields(SHAPE, { text: '' });
  const write = api.useMutation('post', '/api/people/{id}/notes', {
    onSuccess: () => form.reset(),
    onError: form.land,
    onSettled: () => touch('notes'),
  });
  if (!writable && person.notes.length === 0) return null;
  return (
    <section aria-label="Notes">
      <h2>Notes</h2>
      <Events>
        {person.notes.map((note) => (
          <li key={`${note.at} ${note.text}`}>
            <time dateTime={note.at}>{shownTime(note.at, zone)}</time>
            <strong>{note.operator}</strong>
            <span>{note.text}</span>
          </li>
        ))}
      </Events>
      {writable && (
        <form
          className="flex flex-wrap items-end gap-2"
          aria-label="New note"
          onSubmit={(event) =>
            void form.handleSubmit((body) => {
              if (!write.isPending) write.mutate({ params: { path: { id: person.id } }, body });
            })(event)
          }
        >
          <div className="min-w-60 flex-1">
            <Field label="Note" {...form.field('text')} />
          </div>
          <Button small disabled={write.isPending}>
            Keep the note
          </Button>
        </form>
      )}
      {write.error !== null && <Fault error={write.error} />}
    </section>
  );
}
