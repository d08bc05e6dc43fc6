import { counted } from '../ui/words';
import { cellOf, type CellKey } from './draft';
import type { Grid } from './shown';

interface Props {
  version: number;
  contested: CellKey[];
  grid: Grid;
  onCarryOver: () => void;
  onDiscard: () => void;
}

/** Somebody else has published since the draft was begun. */
export function StaleDraft({ version, contested, grid, onCarryOver, onDiscard }: Props) {
  return (
    <div role="alert" className="fault stale">
      <strong>Somebody else has published rulebook {version}</strong>
      <span>
        Your draft is kept, and nothing of it was published. The grid now shows what is in force, with your
        changes on top.
      </span>
      {contested.length > 0 && (
        <>
          <span>{counted(contested.length, 'cell was', 'cells were')} changed by both of you:</span>
          <ul>
            {contested.map((key) => (
              <li key={key}>{titleOf(key, grid)}</li>
            ))}
          </ul>
        </>
      )}
      <div className="acts">
        <button className="btn btn-sm" onClick={onCarryOver}>
          {contested.length > 0 ? 'Go on with mine on top' : 'Go on with my draft'}
        </button>
        <button className="btn btn-sm" onClick={onDiscard}>
          Discard mine
        </button>
      </div>
    </div>
  );
}

export function titleOf(key: CellKey, grid: Grid): string {
  const [from, to] = cellOf(key);
  const source = grid.sources.find((known) => known.source === from);
  const target = grid.targets.find((known) => known.target === to);
  return `${source?.title ?? from} → ${target?.title ?? to}`;
}
