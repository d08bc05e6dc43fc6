import { Link } from '@tanstack/react-router';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';

/** A person's accounts in the systems, the letters to them, and the way to all that the journal has of them. */
export function Elsewhere({ person }: { person: Schemas['PersonShown'] }) {
  const { zone } = useSession();
  return (
    <section aria-label="In the systems">
      <h2>In the systems</h2>
      {person.accounts.length === 0 && <p className="soft">No system keeps an account of theirs.</p>}
      {person.accounts.length + person.letters.length + person.unsaid.length > 0 && (
        <div className="rows">
          {person.accounts.map((account) => (
            <div key={account.id} className="row row-small">
              <div className="row-words">
                <strong>{account.system}</strong>
                <span>{account.state === 'ANSWERED' ? 'has an account' : 'has no account yet'}</span>
              </div>
              <span className={account.state === 'ANSWERED' ? 'soft' : 'warn'}>{account.answer}</span>
            </div>
          ))}
          {person.unsaid.map((one) => (
            <div key={one.target} className="row row-small">
              <div className="row-words">
                <strong>{one.title}</strong>
                <span>the letter about it waits</span>
              </div>
              <span className={one.confirmation === 'REFUSED' ? 'bad' : 'warn'}>
                {one.confirmation === 'REFUSED' ? 'a system does not take it' : 'not confirmed yet'}
              </span>
            </div>
          ))}
          {person.letters.map((letter, at) => (
            <div key={at} className="row row-small">
              <div className="row-words">
                <strong>{letter.system}</strong>
                <span>“{letter.subject}”</span>
              </div>
              <span className={letter.state === 'ANSWERED' ? 'soft' : 'warn'}>
                {letter.at === undefined ? 'waits to be sent' : `sent ${shownTime(letter.at, zone)}`}
              </span>
            </div>
          ))}
        </div>
      )}
      <p>
        <Link to="/journal" search={{ person: person.id }}>
          All that the journal has
        </Link>
      </p>
    </section>
  );
}
