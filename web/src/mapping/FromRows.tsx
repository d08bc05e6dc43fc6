import { api, type Schemas } from '../api/client';
import { fileBody, saveFile } from '../ui/files';
import { Fault } from '../ui/parts';
import { counted } from '../ui/words';
import { FileButton } from '../ui/FileButton';
import type { SetThings } from './DraftMargin';
import { lookup, type Things } from './things';

interface Props {
  things: Things;
  onTake: SetThings;
}

const FATES: Record<Schemas['Row']['fate'], { words: string; tone: string }> = {
  NEW: { words: 'new', tone: 'good' },
  CHANGED: { words: 'changes', tone: '' },
  SAME: { words: 'says nothing new', tone: 'soft' },
  FAULTY: { words: 'not taken', tone: 'bad' },
};

/** The catalogue out as rows, and in: each row's fate is seen before anything is taken over. */
export function FromRows({ things, onTake }: Props) {
  const preview = api.useMutation('post', '/api/mapping/catalogue');
  return (
    <>
      <div className="acts acts-line">
        <a className="btn btn-sm" href="/api/mapping/catalogue" download="catalogue.csv">
          Save as rows
        </a>
        <FileButton
          label="From rows"
          accept=".csv,.tsv,.txt"
          disabled={preview.isPending}
          onFile={(file) => preview.mutate(fileBody(file, 'text/csv'))}
        />
      </div>
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
    <section className="preview" aria-label="What would become of each row">
      <h2>{counted(rows.length, 'row', 'rows')} read</h2>
      <div className="preview-rows">
        <table className="table">
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
                  <strong className={FATES[row.fate].tone}>{FATES[row.fate].words}</strong> {row.why}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="acts acts-line">
        <button className="btn btn-sm btn-primary" disabled={things.length === 0} onClick={onTake}>
          Put {counted(things.length, 'change', 'changes')} into the draft
        </button>
        {toMend !== undefined && (
          <button className="btn btn-sm" onClick={() => saveFile('rows-to-mend.csv', toMend)}>
            Save the faulty rows
          </button>
        )}
        <button className="btn btn-sm" onClick={onLeave}>
          Leave it
        </button>
      </div>
    </section>
  );
}
