import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { buttonLook, Mark, Row, RowActs, Rows, RowWords } from '../ui/kit';

interface Step {
  title: string;
  text: string;
  done: boolean;
  /** Where it is done; without it it is done elsewhere. */
  link?: ReactNode;
}

/** What a new school does until its first sale has opened something; then it is gone. */
export function FirstSteps({ systems }: { systems: Schemas['SystemHealth'][] }) {
  const { role, secondFactor } = useSession();
  const mapping = api.useQuery('get', '/api/mapping');
  const school = api.useQuery('get', '/api/school');
  const connected = (kind: string) => systems.some((system) => system.kind === kind && system.state === 'ON');
  // where something is added already, it may only be switched off
  const isAnyAdded = systems.length > 0;
  const toSystems = (
    <Link className={buttonLook()} to={isAnyAdded ? '/systems' : '/systems/add'}>
      {isAnyAdded ? 'Systems' : 'Add it'}
    </Link>
  );
  const steps: Step[] = [
    ...(role === 'OWNER' ? [whoWeAre(school.data)] : []),
    {
      title: 'Connect the shop',
      text: 'it says what is sold, and reports who has bought it',
      done: connected('SHOP'),
      link: toSystems,
    },
    {
      title: 'Connect the classroom',
      text: 'it lists the courses, and is told who may be in them',
      done: connected('CLASSROOM'),
      link: toSystems,
    },
    {
      title: 'Say what opens what',
      text: 'a cell for each product and course; you see whom it touches before you publish it',
      done: mapping.data !== undefined && mapping.data.cells.length > 0,
      link: (
        <Link className={buttonLook()} to="/mapping">
          Map it
        </Link>
      ),
    },
    {
      title: 'Try it as somebody who buys',
      text: 'an invented person buys; you see what opens, which letter goes out and what each system is told',
      done: false,
      link: (
        <Link className={buttonLook()} to="/rehearse">
          Rehearse
        </Link>
      ),
    },
    {
      title: 'Connect a mailbox',
      text: 'so that learners are written to, and your team can be invited by letter',
      done: connected('MAILBOX'),
      link: toSystems,
    },
    ...(role === 'OWNER' ? [aSecondFactor(secondFactor)] : []),
    {
      title: 'Sell something',
      text: 'the first sale that the shop reports ends this list; free of charge will do',
      done: false,
    },
  ];
  return (
    <section className="mb-10">
      <h2>First steps</h2>
      <Rows>
        {steps.map(({ title, text, done, link }) => (
          <Row key={title}>
            <Mark kind={done ? 'well' : 'off'} />
            <RowWords>
              <strong>
                {title}
                {done && <span className="font-normal text-soft"> · done</span>}
              </strong>
              <span>{text}</span>
            </RowWords>
            {!done && <RowActs>{link}</RowActs>}
          </Row>
        ))}
      </Rows>
    </section>
  );
}

function whoWeAre(school: Schemas['SchoolPage'] | undefined): Step {
  return {
    title: 'Say who the school is',
    text: 'its name, time zone and currency, and the address that learners and the shop reach it by',
    done: school !== undefined && school.version > 0,
    link: (
      <Link className={buttonLook()} to="/school">
        Say it
      </Link>
    ),
  };
}

function aSecondFactor(done: boolean): Step {
  return {
    title: 'Set up a second factor',
    text: 'so that nobody gets in by your password alone',
    done,
    link: (
      <Link className={buttonLook()} to="/account">
        Set it up
      </Link>
    ),
  };
}
