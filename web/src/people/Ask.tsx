import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { TargetFinder } from '../desk/TargetFinder';
import { Chain, Fault, Step } from '../ui/kit';

interface Props {
  person: Schemas['PersonShown'];
  at: string | undefined;
}

/** Why is this closed? For anything there is, also what somebody never had. */
export function Ask({ person, at }: Props) {
  const [asked, setAsked] = useState<Schemas['OfferedTarget']>();
  const why = api.useQuery(
    'get',
    '/api/people/{id}/why',
    {
      params: {
        path: { id: person.id },
        query: { target: asked?.target ?? '', ...(at !== undefined && { at }) },
      },
    },
    { enabled: asked !== undefined },
  );
  return (
    <section aria-label="Ask about anything">
      <h2>Ask about anything</h2>
      <TargetFinder label="Why is it closed" placeholder="Course, area, tag …" onChoose={setAsked} />
      {why.error !== null && <Fault error={why.error} />}
      {why.data !== undefined && asked !== undefined && (
        <>
          <h3>
            {why.data.title} is {why.data.because.length === 0 ? 'open' : 'closed'}
          </h3>
          <Chain>
            {why.data.because.map((reason) => (
              <Step tone="soft" key={reason}>
                <span>{reason}</span>
              </Step>
            ))}
          </Chain>
        </>
      )}
    </section>
  );
}
