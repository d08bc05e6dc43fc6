import { useState } from 'react';
import { api } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { counted } from '../ui/words';
import { Decide, Follows, told, type Case } from './deciding';
import {
  Acts,
  Check,
  Checkbox,
  Empty,
  Fault,
  Headline,
  Margin,
  Row,
  Rows,
  RowWords,
  Screen,
  TextButton,
  Waiting,
} from '../ui/kit';

const WHY: Record<Case['why'], string> = {
  GUEST: 'bought as a guest, without an account',
  UNKNOWN_CONTACT: 'nobody has heard of them',
  EARLY: 'about an order that nobody has heard of yet',
};

/** What waits to be let in, with what would follow, and one act for as many as wanted. */
export function Held() {
  const may = useMay();
  const held = api.useQuery('get', '/api/held', undefined, { refetchInterval: 5_000 });
  const [looked, setLooked] = useState<string>();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const data = held.data;
  const cases = data?.cases ?? [];
  const shown = cases.find((one) => one.about === looked) ?? cases[0];
  const chosen = cases.filter((one) => picked.has(one.about));
  const all = cases.length > 0 && chosen.length === cases.length;
  return (
    <Screen
      margin={
        <Margin label="What follows">
          {shown === undefined ? (
            <section>
              <h2>What is held</h2>
              <p className="text-soft">
                An order by a guest, or a tag of somebody nobody has heard of, where the school&rsquo;s
                policies say that it waits.
              </p>
            </section>
          ) : (
            <Follows key={shown.about} one={shown} />
          )}
        </Margin>
      }
    >
      <Headline>
        <h1>Held</h1>
        {data !== undefined && data.count > 0 && <p>{counted(data.count, 'waits', 'wait')} for somebody</p>}
      </Headline>
      {held.error !== null && <Fault error={held.error} />}
      {data === undefined && held.error === null && <Waiting what="what is held" />}
      {data?.count === 0 && (
        <Empty title="Nothing is held.">
          <p>Whatever was reported has become a fact, or was left out as the policies say.</p>
        </Empty>
      )}
      {cases.length > 0 && (
        <>
          {may.act && (
            <Acts className="items-center mb-3">
              <Check>
                <Checkbox
                  checked={all}
                  onChange={() => setPicked(all ? new Set() : new Set(cases.map((one) => one.about)))}
                />
                {all ? 'All of them' : `${chosen.length} of ${cases.length}`}
              </Check>
              <Decide about={chosen.map((one) => one.about)} onDone={() => setPicked(new Set())} />
            </Acts>
          )}
          <Rows aria-label="Held">
            {cases.map((one) => (
              <CaseRow
                key={one.about}
                one={one}
                looked={one === shown}
                onLook={() => setLooked(one.about)}
                picked={picked.has(one.about)}
                onPick={
                  may.act
                    ? () => {
                        const next = new Set(picked);
                        if (!next.delete(one.about)) next.add(one.about);
                        setPicked(next);
                        setLooked(one.about);
                      }
                    : undefined
                }
              />
            ))}
          </Rows>
          {data !== undefined && data.count > cases.length && (
            <p className="text-soft">and {data.count - cases.length} more, shown when these are decided</p>
          )}
        </>
      )}
    </Screen>
  );
}

interface RowProps {
  one: Case;
  looked: boolean;
  onLook: () => void;
  picked: boolean;
  /** None = one may only look. */
  onPick: (() => void) | undefined;
}

function CaseRow({ one, looked, onLook, picked, onPick }: RowProps) {
  const { zone } = useSession();
  return (
    <Row className={looked ? 'shadow-[inset_3px_0_0_var(--color-primary)]' : ''}>
      {onPick !== undefined && (
        <Checkbox aria-label={`Choose ${one.name}`} checked={picked} onChange={onPick} />
      )}
      <RowWords>
        <strong>
          <TextButton aria-pressed={looked} onClick={onLook}>
            {one.name}
          </TextButton>
        </strong>
        <span>
          {one.name !== one.person && `${one.person} · `}
          {WHY[one.why]}
          {one.known && '; has become known since'}
        </span>
        <span>{told(one.reports, zone)}</span>
      </RowWords>
    </Row>
  );
}
