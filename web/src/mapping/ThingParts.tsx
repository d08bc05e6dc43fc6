import type { Named } from './things';

/** What it is called, where the school itself says so. */
export function Name({ thing, put }: { thing: Named; put: (to: unknown) => void }) {
  return (
    <label className="check">
      It is called
      <input
        className="input"
        maxLength={200}
        value={thing.title ?? thing.id}
        onChange={(event) => put({ ...thing, title: event.target.value })}
      />
    </label>
  );
}

export function Go({ what, onGo }: { what: string; onGo: () => void }) {
  return (
    <div className="acts acts-line">
      <button className="btn btn-sm" onClick={onGo}>
        Take {what} out of the mapping
      </button>
      <span className="soft">In the draft; refused while links still use it.</span>
    </div>
  );
}
