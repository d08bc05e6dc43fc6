import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { LetterDialog } from './Letter';
import { Acts, Badge, Button, Fault, FieldFrame, Input, Panel, Waiting } from '../ui/kit';
import { say } from '../ui/said';
import { TextWithPlaceholders } from './letterParts';

type Worded = Schemas['WordedLetter'];
type Wording = Schemas['WordingWanted'];

const KINDS: Record<Worded['kind'], { title: string; words: string; start: Wording }> = {
  OPENED: {
    title: 'What has opened',
    words:
      'Goes to whoever something has opened for, once the systems have it. One letter about all that opened together; a follow-up’s letter about one of the things takes its place there.',
    start: {
      subject: '{{titles}}: come in',
      text: 'Hello {{person.name}},\n\nthis is open for you now:\n\n{{opened}}\n\n{{places}}\n\nSign in as {{person.address}}.\n\n{{school}}',
    },
  },
  GIFT: {
    title: 'A gift',
    words: 'Goes to whoever is given something, with the link under which they take it up.',
    start: {
      subject: 'A gift for you: {{what}}',
      text: 'Hello,\n\n{{from}} has given you **{{what}}**.\n\nTake it up here, with whichever e-mail address you want to use it: {{link}}\n\n{{school}}',
    },
  },
};

const WORDS: Record<string, string> = {
  'person.name': 'their name',
  'person.address': 'their address',
  titles: 'what opened, in a line',
  opened: 'what opened, as a list',
  places: 'places they can give',
  school: 'the school',
  from: 'who gives it',
  what: 'what is given',
  link: 'where it is taken up',
  until: 'until when',
};

/** The letters that Yoru writes by itself, each as it ships or in the school's own words. */
export function SchoolLetters() {
  const found = api.useQuery('get', '/api/letters');
  if (found.error !== null) return <Fault error={found.error} />;
  if (found.data === undefined) return <Waiting what="the letters" />;
  return found.data.map((one) => <OneLetter key={`${one.kind} ${JSON.stringify(one.own)}`} letter={one} />);
}

function OneLetter({ letter }: { letter: Worded }) {
  const { title, words, start } = KINDS[letter.kind];
  const touch = useTouch();
  const [draft, setDraft] = useState<Wording | undefined>(letter.own);
  const path = { params: { path: { kind: letter.kind } } };
  const settled = { onSettled: () => touch('letters') };
  const keep = api.useMutation('put', '/api/letters/{kind}', {
    ...settled,
    onSuccess: () => say(`${title}: your words are in force from the next letter on.`),
  });
  const ship = api.useMutation('delete', '/api/letters/{kind}', settled);
  const look = api.useMutation('post', '/api/letters/{kind}/look');
  const changed = JSON.stringify(draft) !== JSON.stringify(letter.own);
  return (
    <Panel aria-label={title} className="mb-4">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="m-0">{title}</h2>
        <Badge tone={letter.own === undefined ? 'soft' : 'good'}>
          {letter.own === undefined ? 'as it ships' : 'in your words'}
        </Badge>
      </div>
      <p className="text-soft">{words}</p>
      {draft === undefined ? (
        <>
          <p className="rounded-field bg-figure px-2.5 py-2 whitespace-pre-wrap">
            {(letter.own ?? start).text}
          </p>
          <Acts>
            <Button onClick={() => setDraft(start)}>Write it yourself</Button>
          </Acts>
        </>
      ) : (
        <>
          <FieldFrame label="Subject">
            {(tied) => (
              <Input
                value={draft.subject}
                maxLength={200}
                onChange={(event) => setDraft({ ...draft, subject: event.target.value })}
                {...tied}
              />
            )}
          </FieldFrame>
          <TextWithPlaceholders
            label="Text"
            value={draft.text}
            offered={letter.placeholders.map((name) => [name, WORDS[name] ?? name])}
            onChange={(text) => setDraft({ ...draft, text })}
          />
          {[keep.error, ship.error, look.error].map(
            (error, at) => error !== null && <Fault key={String(at)} error={error} />,
          )}
          <Acts>
            <Button
              kind="main"
              disabled={!changed || keep.isPending}
              onClick={() => keep.mutate({ ...path, body: draft })}
            >
              {keep.isPending ? 'Keeping …' : 'Use these words'}
            </Button>
            <Button onClick={() => look.mutate({ ...path, body: draft })}>How it looks</Button>
            {letter.own === undefined ? (
              <Button onClick={() => setDraft(undefined)}>Leave it</Button>
            ) : (
              <Button disabled={ship.isPending} onClick={() => ship.mutate(path)}>
                As it ships again
              </Button>
            )}
          </Acts>
        </>
      )}
      {look.data !== undefined && <LetterDialog letter={look.data} onClose={() => look.reset()} />}
    </Panel>
  );
}
