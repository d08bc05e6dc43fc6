import { useEffect, useId, useRef } from 'react';
import { inWords, periodParts, UNITS, type Terms, type Unit } from './terms';

interface Props {
  title: string;
  /** Of what opens it: a product, or a tag, for which there are no refunds. */
  sort: string;
  terms: Terms;
  onChange: (terms: Terms) => void;
  onClose: () => void;
}

/** Edits the terms of the selected cells; each change goes into the draft at once. */
export function TermsEditor({ title, sort, terms, onChange, onClose }: Props) {
  const name = useId();
  const chosen = useRef<HTMLInputElement>(null);
  useEffect(() => chosen.current?.focus(), []);
  const always = terms.length === 'held';
  const parts = always ? [] : periodParts(terms.length);
  const single = parts.length === 1 ? parts[0] : undefined;
  const period = (count: number, unit: Unit) => onChange({ ...terms, length: `P${count}${unit}` });
  return (
    // Escape and Enter close it from wherever in it one is
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      className="terms"
      aria-label={`Terms: ${title}`}
      onSubmit={(event) => {
        event.preventDefault();
        onClose();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
      }}
    >
      <h2>{title}</h2>
      <fieldset>
        <legend>Open for how long?</legend>
        <label className="check">
          <input
            ref={always ? chosen : undefined}
            type="radio"
            className="radio"
            name={`${name}-length`}
            checked={always}
            onChange={() => onChange({ ...terms, length: 'held' })}
          />
          {sort === 'product' ? 'always' : 'as long as the tag is there'}
        </label>
        <div className="check">
          <input
            ref={always ? undefined : chosen}
            id={`${name}-for`}
            type="radio"
            className="radio"
            name={`${name}-length`}
            checked={!always}
            onChange={() => period(1, 'Y')}
          />
          <label htmlFor={`${name}-for`}>for</label>
          {parts.length > 1 ? (
            <span>
              {inWords({ ...terms, refund: 'keep' })
                .split(';')[0]
                ?.replace('for ', '')}
            </span>
          ) : (
            <>
              <input
                type="number"
                className="input input-count"
                aria-label="How many"
                min={1}
                max={999}
                disabled={always}
                value={single?.count ?? 1}
                onChange={(event) => {
                  const count = Number(event.target.value);
                  if (Number.isInteger(count) && count >= 1 && count <= 999)
                    period(count, single?.unit ?? 'Y');
                }}
              />
              <select
                className="select"
                aria-label="Of what"
                disabled={always}
                value={single?.unit ?? 'Y'}
                onChange={(event) => period(single?.count ?? 1, event.target.value as Unit)}
              >
                {UNITS.map((known) => (
                  <option key={known.unit} value={known.unit}>
                    {single?.count === 1 ? known.one : known.many}
                  </option>
                ))}
              </select>
            </>
          )}
        </div>
      </fieldset>
      {sort === 'product' && (
        <fieldset>
          <legend>When the money is given back</legend>
          {(['end', 'keep'] as const).map((refund) => (
            <label className="check" key={refund}>
              <input
                type="radio"
                className="radio"
                name={`${name}-refund`}
                checked={terms.refund === refund}
                onChange={() => onChange({ ...terms, refund })}
              />
              {refund === 'end' ? 'it closes' : 'it stays open'}
            </label>
          ))}
        </fieldset>
      )}
      <p className="soft">
        {sort === 'product'
          ? 'Counted from the payment, in the school’s time zone; an order of nothing counts as paid.'
          : 'Counted from when the tag is put on, in the school’s time zone.'}{' '}
        So: open {inWords(terms, sort)}.
      </p>
      <button className="btn btn-sm">
        Done <kbd>Enter</kbd>
      </button>
    </form>
  );
}
