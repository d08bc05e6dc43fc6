import { api, type Schemas } from '../api/client';
import { fileBody, saveFile } from '../ui/files';
import { counted } from '../ui/words';
import { FileButton } from '../ui/FileButton';
import type { SetThings } from './DraftMargin';
import { lookup, type Things } from './things';
import { Acts, Button, buttonLook, Fault, ink, type Tone } from '../ui/kit';

interface Props {
  things: Things;
  onTake: SetThings;
}

const FATES: Record<Schemas['Row']['fate'], { words: string; tone?: Tone }> = {
  NEW: { words: 'new', tone: 'good' },
  CHANGED: { words: 'changes' },
  SAME: { words: 'says nothing new', tone: 'soft' },
  FAULTY: { words: 'not taken', tone: 'bad' },
};

/** The catalogue out as rows, and in: each row's fate is seen before anything is taken over. */
export function FromRows({ things, onTake }: Props) {
  const preview = api.useMutation('post', '/api/mapping/catalogue');
  return (
    <>
      <Acts className="items-center">
        <a className={buttonLook({ small: true })} href="/api/mapping/catalogue" download="catalogue.csv">
          Save as rows
        </a>
        <FileButton
          label="From rows"
          accept=".csv,.tsv,.txt"
          disabled={preview.isPending}
          onFile={(file) => preview.mutate(fileBody(file, 'text/csv'))}
        />
      </Acts>
      {preview.error !== null && <Fault error={preview.error} />}
      {preview.data !== undefined && (
        <Preview
          preview={preview.data}
          onTake={() => {
            const now = lookup(things);
            onTake(preview.data.things.map(({ thing, to }) => [thing, to ?? null, now(thing)]));
            preview.reset();
          }}
          onLeave={preview.reset}
        />
      )}
    </>
  );
}

interface PreviewProps {
  preview: Schemas['Preview'];
  onTake: () => void;
  onLeave: () => void;
}

function Preview({ preview, onTake, onLeave }: PreviewProps) {
  const { rows, things, toMend } = preview;
  return (
    <section className="my-3" aria-label="What would become of each row">
      <h2>{counted(rows.length, 'row', 'rows')} read</h2>
      <div className="my-1.5 max-h-80 overflow-auto rounded-box border border-line bg-base-100 [&_:is(th,td)]:px-3.5 [&_:is(th,td)]:py-1 [&_:is(th,td)]:text-left [&_:is(th,td)]:align-baseline">
        <table>
          <thead>
            <tr>
              <th scope="col">Row</th>
              <th scope="col">What</th>
              <th scope="col">Fate</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.number}>
                <td>{row.number}</td>
                <td>
                  {row.title} <code>{row.thing}</code>
                </td>
                <td>
                  <strong className={ink(FATES[row.fate].tone)}>{FATES[row.fate].words}</strong> {row.why}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Acts className="items-center">
        <Button kind="main" small disabled={things.length === 0} onClick={onTake}>
          Put {counted(things.length, 'change', 'changes')} into the draft
        </Button>
        {toMend !== undefined && (
          <Button small onClick={() => saveFile('rows-to-mend.csv', toMend)}>
            Save the faulty rows
          </Button>
        )}
        <Button small onClick={onLeave}>
          Leave it
        </Button>
      </Acts>
    </section>
  );
}
