import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { Dialog } from '../ui/Dialog';
import { Acts, Button, Fault, Views } from '../ui/kit';

type Forms = 'text' | 'wide' | 'phone';

const FORMS: [Forms, string][] = [
  ['text', 'As text'],
  ['wide', 'As it looks'],
  ['phone', 'On a phone'],
];

/** Mail programs bring their own type; this is about what they show. */
function page(html: string): string {
  return `<!doctype html><meta name="viewport" content="width=device-width"><style>
    body { font: 16px/1.5 system-ui, sans-serif; margin: 16px; color: #1b1b32; background: #fffefa; overflow-wrap: anywhere }
    a { color: #34379b }
  </style>${html}`;
}

interface Props {
  letter: Schemas['StepPreview'];
  wanted: { draft: Schemas['Draft']; followup: string };
  person: number | undefined;
}

/** A letter as it would read, and as mail programs would show it; it can be sent to whoever writes it. */
export function Letter({ letter, wanted, person }: Props) {
  const [open, setOpen] = useState(false);
  const send = api.useMutation('post', '/api/mapping/followups/to-me');
  return (
    <>
      <p className="mt-1 rounded-field bg-figure px-2.5 py-2 whitespace-pre-wrap">
        {letter.subject !== undefined && (
          <>
            <strong>{letter.subject}</strong>
            {'\n\n'}
          </>
        )}
        {letter.text}
      </p>
      {letter.html !== undefined && (
        <Acts className="mt-1">
          <Button small onClick={() => setOpen(true)}>
            How it looks
          </Button>
          <Button
            small
            disabled={send.isPending || person === undefined}
            onClick={() =>
              person !== undefined && send.mutate({ body: { ...wanted, person, step: letter.step } })
            }
          >
            {send.isPending ? 'Sending …' : 'Send it to me'}
          </Button>
          <span className="text-soft" role="status">
            {send.data !== undefined && `On its way to ${send.data.to}, by ${send.data.by}.`}
          </span>
        </Acts>
      )}
      {letter.unasked && (
        <p className="text-soft">
          It answers nothing they did: it says how to have no more of them, and whoever did so does not get
          it.
        </p>
      )}
      {send.error !== null && <Fault error={send.error} />}
      {open && (
        <LetterDialog
          letter={{ subject: letter.subject ?? '', text: letter.text ?? '', html: letter.html ?? '' }}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

/** As text, and as mail programs would show it. */
export function LetterDialog({ letter, onClose }: { letter: Schemas['LetterJson']; onClose: () => void }) {
  const [form, setForm] = useState<Forms>('wide');
  return (
    <Dialog wide title={letter.subject} onClose={onClose}>
      <Views aria-label="Forms of the letter" className="self-start">
        {FORMS.map(([one, words]) => (
          <button key={one} type="button" aria-pressed={form === one} onClick={() => setForm(one)}>
            {words}
          </button>
        ))}
      </Views>
      {form === 'text' ? (
        <pre className="h-[50dvh] overflow-auto rounded-field bg-figure p-3 text-sm whitespace-pre-wrap">
          {letter.text}
        </pre>
      ) : (
        <iframe
          title={form === 'phone' ? 'The letter on a phone' : 'The letter'}
          sandbox=""
          srcDoc={page(letter.html)}
          className={`h-[50dvh] self-center rounded-box border border-line bg-base-100 ${form === 'phone' ? 'w-[360px] max-w-full' : 'w-full'}`}
        />
      )}
      <Acts>
        <Button onClick={onClose}>Close</Button>
      </Acts>
    </Dialog>
  );
}
