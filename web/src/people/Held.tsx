import { useState } from 'react';
import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { api, type Schemas } from '../api/client';
import { OrderState } from '../orders/OrderState';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { counted, exactMoney } from '../ui/words';
import type { PersonDeed } from './PersonAct';

interface Props {
  person: Schemas['PersonShown'];
  at: string | undefined;
  /** None = on another day, when nothing can be done. */
  onDeed: ((deed: PersonDeed) => void) | undefined;
}

/** What a person has beside what is open, each with what can be done about it. */
export function Held({ person, at, onDeed }: Props) {
  const { zone } = useSession();
  const { places, waiting, choosable, levels, grants, subscriptions, left, outside } = person.holdings;
  return (
    <>
      <Orders person={person} at={at} />
      {levels.length > 0 && (
        <Part title="Levels">
          {levels.map((level) => (
            <div key={level.id} className="row">
              <div className="row-words">
                <strong>{level.title}</strong>
              </div>
              {onDeed !== undefined && level.others.length > 0 && (
                <button
                  className="btn btn-sm"
                  onClick={() => onDeed({ kind: 'CHANGE_LEVEL', id: level.id, title: level.title })}
                >
                  Change the level
                </button>
              )}
            </div>
          ))}
        </Part>
      )}
      {places.length > 0 && (
        <Part title="Courses of the level">
          {places.map((place) => (
            <div key={place.level} className="row">
              <div className="row-words">
                <strong>
                  {place.title}: {place.left} of {place.courses} left to choose
                  {place.premiumLeft !== undefined && `, ${place.premiumLeft} of them premium`}
                </strong>
                {place.taken.map((course) => (
                  <span key={course.id}>
                    {course.title}{' '}
                    {onDeed !== undefined && (
                      <button
                        className="link"
                        onClick={() => onDeed({ kind: 'RELEASE', id: course.id, title: course.title })}
                      >
                        Return it
                      </button>
                    )}
                  </span>
                ))}
                {waiting.map((course) => (
                  <span key={course.id} className="warn">
                    {course.title} was chosen and has no place
                  </span>
                ))}
              </div>
              {onDeed !== undefined && choosable.length > 0 && (
                <ChooseOne courses={choosable} onDeed={onDeed} />
              )}
            </div>
          ))}
        </Part>
      )}
      {grants.length > 0 && (
        <Part title="Given by hand">
          {grants.map((grant) => (
            <div key={grant.grant} className="row">
              <div className="row-words">
                <strong>{grant.titles.join(', ')}</strong>
                <span>
                  since {shownDate(grant.since, zone)}
                  {grant.until === undefined
                    ? ', until somebody ends it'
                    : `, to ${shownDate(grant.until, zone)}`}{' '}
                  · {grant.reason}
                </span>
              </div>
              {onDeed !== undefined && (
                <button
                  className="btn btn-sm"
                  onClick={() =>
                    onDeed({ kind: 'END_GRANT', id: grant.grant, title: grant.titles.join(', ') })
                  }
                >
                  End it
                </button>
              )}
            </div>
          ))}
        </Part>
      )}
      {subscriptions.length > 0 && (
        <Part title="Subscriptions">
          {subscriptions.map((one) => (
            <div key={one.subscription} className="row">
              <div className="row-words">
                <strong>{one.product}</strong>
                <span>
                  {one.subscription}, since {shownDate(one.since, zone)}, paid to{' '}
                  {shownDate(one.paidThrough, zone)}
                </span>
                <Paying one={one} />
              </div>
              {onDeed !== undefined && !one.cancelled && one.paying !== 'ENDED' && (
                <button
                  className="btn btn-sm"
                  onClick={() =>
                    onDeed({ kind: 'END_SUBSCRIPTION', id: one.subscription, title: one.product })
                  }
                >
                  End it
                </button>
              )}
            </div>
          ))}
        </Part>
      )}
      {left.length > 0 && (
        <Part title="Lists they left">
          {left.map((list) => (
            <div key={list.id} className="row">
              <div className="row-words">
                <strong>{list.title}</strong>
                <span>
                  left on {shownDate(list.since, zone)}; nothing they buy puts them on it again, only they
                  themselves
                </span>
              </div>
            </div>
          ))}
        </Part>
      )}
      {outside.length > 0 && (
        <Part title="Tags and levels from elsewhere">
          <div className="row">
            {outside.map((one) => (
              <span key={one.id} className="chip">
                {one.title}{' '}
                {onDeed !== undefined && (
                  <button
                    className="link"
                    aria-label={`Take ${one.title} back`}
                    onClick={() => onDeed({ kind: 'END_OUTSIDE', id: one.id, title: one.title })}
                  >
                    take back
                  </button>
                )}
              </span>
            ))}
          </div>
        </Part>
      )}
    </>
  );
}

/** What is to come of a subscription, where it is not simply paid. */
function Paying({ one }: { one: Schemas['Subscribed'] }) {
  const { zone } = useSession();
  const failed = one.failedAt === undefined ? '' : `payment failed on ${shownDate(one.failedAt, zone)}, `;
  const end = one.ends === undefined ? '' : shownDate(one.ends, zone);
  if (one.paying === 'ENDED') {
    return (
      <span className="soft">
        {failed}
        {one.cancelled ? 'cancelled, ' : ''}ended on {end}
      </span>
    );
  }
  if (one.cancelled) return <span className="soft">cancelled, ends on {end}</span>;
  if (one.paying === 'IN_GRACE' || one.failedAt !== undefined) {
    return (
      <span className="warn">
        {failed}
        {end === '' ? 'waited for' : `closes on ${end} unless it is paid`}
      </span>
    );
  }
  return null;
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <div className="rows">{children}</div>
    </section>
  );
}

function ChooseOne({ courses, onDeed }: { courses: Schemas['Named'][]; onDeed: (deed: PersonDeed) => void }) {
  const [course, setCourse] = useState('');
  const chosen = courses.find((one) => one.id === course);
  return (
    <div className="row-acts">
      <select
        className="select"
        aria-label="Course to choose"
        value={course}
        onChange={(event) => setCourse(event.target.value)}
      >
        <option value="">Choose a course …</option>
        {courses.map((one) => (
          <option key={one.id} value={one.id}>
            {one.title}
          </option>
        ))}
      </select>
      <button
        className="btn btn-sm"
        disabled={chosen === undefined}
        onClick={() => chosen !== undefined && onDeed({ kind: 'CHOOSE', ...chosen })}
      >
        Choose
      </button>
    </div>
  );
}

function Orders({ person, at }: { person: Schemas['PersonShown']; at: string | undefined }) {
  const { zone } = useSession();
  const orders = api.useQuery('get', '/api/orders', {
    params: { query: { person: person.id, ...(at !== undefined && { at }) } },
  });
  const data = orders.data;
  if (data === undefined || data.total === 0) return null;
  return (
    <section aria-label="Orders">
      <h2>
        {counted(data.total, 'order', 'orders')}
        {data.sums.map((sum) => `, ${exactMoney(sum.paid - sum.givenBack, sum.currency)} paid`)}
      </h2>
      <div className="rows">
        {data.orders.map((order) => (
          <div key={order.id} className="row row-small">
            <div className="row-words">
              <Link to="/orders/$id" params={{ id: order.id }}>
                {order.id}
              </Link>
              <span>{order.products.join(', ')}</span>
            </div>
            <span className="soft">{shownDate(order.placedAt, zone)}</span>
            <span>{exactMoney(order.total, order.currency)}</span>
            <OrderState order={order} />
          </div>
        ))}
      </div>
    </section>
  );
}
