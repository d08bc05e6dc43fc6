import { useTouch } from '../api/touch';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { FileButton } from '../ui/FileButton';
import { fileBody } from '../ui/files';
import { counted } from '../ui/words';
import type { SystemShown } from './words';
import { Acts, buttonLook, Fault, Panel } from '../ui/kit';

/** Takes a CSV file over instead of reports. */
export function HandOver({ system }: { system: SystemShown }) {
  const touch = useTouch();
  const [name, setName] = useState('');
  const take = api.useMutation('post', '/api/systems/{id}/files', {
    onSettled: () => touch('access'),
  });
  const read = (file: File) => {
    setName(file.name);
    take.mutate({
      params: { path: { id: system.id }, query: { name: file.name } },
      ...fileBody(file, 'text/csv'),
    });
  };
  return (
    <Panel aria-label="A file instead of reports">
      <h2>A file instead of reports</h2>
      <Acts className="items-center">
        <FileButton
          label="Hand over a CSV file"
          accept="text/csv,.csv"
          disabled={system.state === 'OFF' || take.isPending}
          onFile={read}
        />
        <span className="text-soft" role="status">
          {take.isPending
            ? `Reading ${name} …`
            : take.data === undefined
              ? system.state === 'OFF'
                ? 'It is off; nothing is taken.'
                : 'Each row counts as a report; the same row again changes nothing.'
              : `${name}: ${inWords(take.data)}`}
        </span>
        {take.data?.toMend !== undefined && (
          <a
            className={buttonLook({ small: true })}
            href={`data:text/csv;charset=utf-8,${encodeURIComponent(take.data.toMend)}`}
            download={`${name.replace(/\.csv$/i, '')}-to-mend.csv`}
          >
            {counted(take.data.faulty, 'row', 'rows')} to mend
          </a>
        )}
      </Acts>
      {take.error !== null && <Fault error={take.error} />}
    </Panel>
  );
}

function inWords(file: Schemas['FileTaken']): string {
  return [
    counted(file.rows, 'row', 'rows'),
    file.taken > 0 && `${file.taken} taken up`,
    file.known > 0 && `${file.known} known already`,
    file.kept > 0 && `${file.kept} only kept`,
    file.faulty > 0 && `${file.faulty} faulty`,
  ]
    .filter(Boolean)
    .join(', ');
}
