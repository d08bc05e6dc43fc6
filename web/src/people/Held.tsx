import { useState } from 'react';
import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { api, type Schemas } from '../api/client';
import { OrderState } from '../orders/OrderState';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { counted, exactMoney } from '../ui/words';
import type { PersonDeed } from './PersonAct';
import { Button, Chip, Row, RowActs, Rows, RowWords, Select, TextButton } from '../ui/kit';

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
            <Row as="div" key={level.id}>
              <RowWords>
                <strong>{level.title}</strong>
              </RowWords>
              {onDeed !== undefined && level.others.length > 0 && (
                <Button
                  small
                  onClick={() => onDeed({ kind: 'CHANGE_LEVEL', id: level.id, title: level.title })}
                >
                  Change the level
                </Button>
              )}
            </Row>
          ))}
        </Part>
      )}
      {places.length > 0 && (
        <Part title="Courses of the level">
          {places.map((place) => (
            <Row as="div" key={place.level}>
              <RowWords>
                <strong>
                  {place.title}: {place.left} of {place.courses} left to choose
                  {place.premiumLeft !== undefined && `, ${place.premiumLeft} of them premium`}
                </strong>
                {place.taken.map((course) => (
                  <span key={course.id}>
                    {course.title}{' '}
                    {onDeed !== undefined && (
                      <TextButton
                        onClick={() => onDeed({ kind: 'RELEASE', id: course.id, title: course.title })}
                      >
                        Return it
                      </TextButton>
                    )}
                  </span>
                ))}
                {waiting.map((course) => (
                  <span key={course.id} className="text-warning">
                    {course.title} was chosen and has no place
                  </span>
                ))}
              </RowWords>
              {onDeed !== undefined && choosable.length > 0 && (
                <ChooseOne courses={choosable} onDeed={onDeed} />
              )}
            </Row>
          ))}
        </Part>
      )}
      {grants.length > 0 && (
        <Part title="Given by hand">
          {grants.map((grant) => (
            <Row as="div" key={grant.grant}>
              <RowWords>
                <strong>{grant.titles.join(', ')}</strong>
                <span>
                  since {shownDate(grant.since, zone)}
                  {grant.until === undefined
                    ? ', until somebody ends it'
                    : `, to ${shownDate(grant.until, zone)}`}{' '}
                  · {grant.reason}
                </span>
              </RowWords>
              {onDeed !== undefined && (
                <Button
                  small
                  onClick={() =>
                    onDeed({ kind: 'END_GRANT', id: grant.grant, title: grant.titles.join(', ') })
                  }
                >
                  End it
                </Button>
              )}
            </Row>
          ))}
        </Part>
      )}
      {subscriptions.length > 0 && (
        <Part title="Subscriptions">
          {subscriptions.map((one) => (
            <Row as="div" key={one.subscription}>
              <RowWords>
                <strong>{one.product}</strong>
                <span>
                  {one.subscription}, since {shownDate(one.since, zone)}, paid to{' '}
                  {shownDate(one.paidThrough, zone)}
                </span>
                <Paying one={one} />
              </RowWords>
              {onDeed !== undefined && !one.cancelled && one.paying !== 'ENDED' && (
                <Button
                  small
                  onClick={() =>
                    onDeed({ kind: 'END_SUBSCRIPTION', id: one.subscription, title: one.product })
                  }
                >
                  End it
                </Button>
              )}
            </Row>
          ))}
        </Part>
      )}
      {left.length > 0 && (
        <Part title="Lists they left">
          {left.map((list) => (
            <Row as="div" key={list.id}>
              <RowWords>
                <strong>{list.title}</strong>
                <span>
                  left on {shownDate(list.since, zone)}; nothing they buy puts them on it again, only they
                  themselves
                </span>
              </RowWords>
            </Row>
          ))}
        </Part>
      )}
      {outside.length > 0 && (
        <Part title="Tags and levels from elsewhere">
          <Row as="div">
            {outside.map((one) => (
              <Chip key={one.id}>
                {one.title}{' '}
                {onDeed !== undefined && (
                  <TextButton
                    aria-label={`Take ${one.title} back`}
                    onClick={() => onDeed({ kind: 'END_OUTSIDE', id: one.id, title: one.title })}
                  >
                    take back
                  </TextButton>
                )}
              </Chip>
            ))}
          </Row>
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
      <span className="text-soft">
        {failed}
        {one.cancelled ? 'cancelled, ' : ''}ended on {end}
      </span>
    );
  }
  if (one.cancelled) return <span className="text-soft">cancelled, ends on {end}</span>;
  if (one.paying === 'IN_GRACE' || one.failedAt !== undefined) {
    return (
      <span className="text-warning">
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
      <Rows as="div">{children}</Rows>
    </section>
  );
}

function ChooseOne({ courses, onDeed }: { courses: Schemas['Named'][]; onDeed: (deed: PersonDeed) => void }) {
  const [course, setCourse] = useState('');
  const chosen = courses.find((one) => one.id === course);
  return (
    <RowActs>
      <Select
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
      </Select>
      <Button
        small
        disabled={chosen === undefined}
        onClick={() => chosen !== undefined && onDeed({ kind: 'CHOOSE', ...chosen })}
      >
        Choose
      </Button>
    </RowActs>
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
      <Rows as="div">
        {data.orders.map((order) => (
          <Row as="div" key={order.id} className="min-h-9 py-1">
            <RowWords>
              <Link to="/orders/$id" params={{ id: order.id }}>
                {order.id}
              </Link>
              <span>{order.products.join(', ')}</span>
            </RowWords>
            <span className="text-soft">{shownDate(order.placedAt, zone)}</span>
            <span>{exactMoney(order.total, order.currency)}</span>
            <OrderState order={order} />
          </Row>
        ))}
      </Rows>
    </section>
  );
}
