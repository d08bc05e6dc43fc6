import { useState } from 'react';
import { api } from '../api/client';
import { TargetFinder } from '../desk/TargetFinder';
import { ActForm, Acts, Button, ConfirmButton, Fault, Panel } from '../ui/kit';
import { counted } from '../ui/words';

/** For a school that did by hand before what a follow-up does now: whoever has its mark is not served again. */
export function ByHand({ followup }: { followup: string }) {
  const [open, setOpen] = useState(false);
  const [mark, setMark] = useState<{ target: string; title: string }>();
  const holders = api.useQuery(
    'get',
    '/api/holders',
    { params: { query: { target: mark?.target ?? '' } } },
    { enabled: mark !== undefined },
  );
  const adopt = api.useMutation('post', '/api/mapping/followups/{followup}/adopt');
  if (!open) {
    return (
      <p className="my-3 text-soft">
        Was it done by hand before?{' '}
        <Button small onClick={() => setOpen(true)}>
          Leave those out who have a mark of it
        </Button>
      </p>
    );
  }
  const many = holders.data?.now;
  return (
    <Panel>
      <h2>Done by hand before</h2>
      <p className="text-soft">
        Whoever has this now counts as served for good: they are not written to again. It cannot be taken
        back.
      </p>
      {mark === undefined ? (
        <TargetFinder
          label="By what one knows them"
          placeholder="a tag, a level, a group …"
          onChoose={(target) => setMark({ target: target.target, title: target.title })}
        />
      ) : (
        <ActForm
          className="grid gap-2"
          onConfirm={() => adopt.mutate({ params: { path: { followup } }, body: { target: mark.target } })}
        >
          <p>
            <strong>{mark.title}</strong>:{' '}
            {many === undefined ? 'counting …' : counted(many, 'person has it', 'people have it')}
          </p>
          {adopt.error !== null && <Fault error={adopt.error} />}
          {adopt.data === undefined ? (
            <Acts>
              <ConfirmButton disabled={many === undefined || many === 0 || adopt.isPending}>
                {many === undefined
                  ? 'Count them as served'
                  : `Count ${counted(many, 'person', 'people')} as served`}
              </ConfirmButton>
              <Button type="button" onClick={() => setMark(undefined)}>
                Something else
              </Button>
            </Acts>
          ) : (
            <p role="status">
              {counted(adopt.data.people, 'person counts', 'people count')} as served from now on.
            </p>
          )}
        </ActForm>
      )}
    </Panel>
  );
}
