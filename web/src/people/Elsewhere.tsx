import { Link } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Button, Fault, Row, Rows, RowWords } from '../ui/kit';

/** A person's accounts in the systems, the letters to them, and the way to all that the journal has of them. */
export function Elsewhere({ person }: { person: Schemas['PersonShown'] }) {
  const { zone } = useSession();
  return (
    <section aria-label="In the systems">
      <h2>In the systems</h2>
      {person.accounts.length === 0 && <p className="text-soft">No system keeps an account of theirs.</p>}
      {person.accounts.length + person.letters.length + person.unsaid.length > 0 && (
        <Rows as="div">
          {person.accounts.map((account) => (
            <Row as="div" key={account.id} className="min-h-9 py-1">
              <RowWords>
                <strong>{account.system}</strong>
                <span>
                  {account.stranger
                    ? 'does not know them; by policy contacts are not made there by themselves'
                    : account.state === 'ANSWERED'
                      ? 'has an account'
                      : 'has no account yet'}
                </span>
              </RowWords>
              {account.stranger ? (
                <MakeKnown delivery={account.id} />
              ) : (
                <span className={account.state === 'ANSWERED' ? 'text-soft' : 'text-warning'}>
                  {account.answer}
                </span>
              )}
            </Row>
          ))}
          {person.unsaid.map((one) => (
            <Row as="div" key={one.target} className="min-h-9 py-1">
              <RowWords>
                <strong>{one.title}</strong>
                <span>the letter about it waits</span>
              </RowWords>
              <span className={one.confirmation === 'REFUSED' ? 'text-error' : 'text-warning'}>
                {one.confirmation === 'REFUSED' ? 'a system does not take it' : 'not confirmed yet'}
              </span>
            </Row>
          ))}
          {person.letters.map((letter, at) => (
            <Row as="div" key={at} className="min-h-9 py-1">
              <RowWords>
                <strong>{letter.system}</strong>
                <span>“{letter.subject}”</span>
              </RowWords>
              <span className={letter.state === 'ANSWERED' ? 'text-soft' : 'text-warning'}>
                {letter.at === undefined ? 'waits to be sent' : `sent ${shownTime(letter.at, zone)}`}
              </span>
            </Row>
          ))}
        </Rows>
      )}
      <p>
        <Link to="/journal" search={{ person: person.id }}>
          All that the journal has
        </Link>
      </p>
      <OwnPage person={person.id} />
    </section>
  );
}

/** The links to their own page are revoked where one fell into other hands; the next letter has a new one. */
function OwnPage({ person }: { person: number }) {
  const may = useMay();
  const revoke = api.useMutation('post', '/api/people/{id}/own-page/revoke');
  if (!may.act) return null;
  return (
    <p className="text-soft">
      Letters link to a page of their own.{' '}
      <Button
        small
        disabled={revoke.isPending || revoke.isSuccess}
        onClick={() => revoke.mutate({ params: { path: { id: person } } })}
      >
        {revoke.isSuccess ? 'Its links are revoked' : 'Revoke its links'}
      </Button>
      {revoke.error !== null && <Fault error={revoke.error} />}
    </p>
  );
}

function MakeKnown({ delivery }: { delivery: number }) {
  const may = useMay();
  const touch = useTouch();
  const make = api.useMutation('post', '/api/deliveries/{id}/make-known', {
    onSettled: () => touch('access'),
  });
  if (!may.act) return null;
  return (
    <>
      <Button
        small
        disabled={make.isPending || make.isSuccess}
        onClick={() => make.mutate({ params: { path: { id: delivery } } })}
      >
        {make.isSuccess ? 'Being made …' : 'Make the contact'}
      </Button>
      {make.error !== null && <Fault error={make.error} />}
    </>
  );
}
