import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { buttonLook, Mark, Row, RowActs, Rows, RowWords } from '../ui/kit';

/** What a new school does until its first sale has opened something; then it is gone. */
export function FirstSteps({ systems }: { systems: Schemas['SystemHealth'][] }) {
  const { role, secondFactor } = useSession();
  const mapping = api.useQuery('get', '/api/mapping');
  const connected = (kind: string) => systems.some((system) => system.kind === kind && system.state === 'ON');
  const opens = mapping.data !== undefined && mapping.data.cells.length > 0;
  return (
    <section className="mb-10">
      <h2>First steps</h2>
      <Rows>
        <FirstStep
          done={connected('SHOP')}
          title="Connect the shop"
          text="it says what is sold, and reports who has bought it"
        >
          <ToSystems any={systems.length > 0} />
        </FirstStep>
        <FirstStep
          done={connected('CLASSROOM')}
          title="Connect the classroom"
          text="it lists the courses, and is told who may be in them"
        >
          <ToSystems any={systems.length > 0} />
        </FirstStep>
        <FirstStep
          done={opens}
          title="Say what opens what"
          text="a cell for each product and course; you see whom it touches before you publish it"
        >
          <Link className={buttonLook()} to="/mapping">
            Map it
          </Link>
        </FirstStep>
        <FirstStep
          done={false}
          title="Try it as somebody who buys"
          text="an invented person buys; you see what opens, which letter goes out and what each system is told"
        >
          <Link className={buttonLook()} to="/rehearse">
            Rehearse
          </Link>
        </FirstStep>
        <FirstStep
          done={connected('MAILBOX')}
          title="Connect a mailbox"
          text="so that learners are written to, and your team can be invited by letter"
        >
          <ToSystems any={systems.length > 0} />
        </FirstStep>
        {role === 'OWNER' && (
          <FirstStep
            done={secondFactor}
            title="Set up a second factor"
            text="so that nobody gets in by your password alone"
          >
            <Link className={buttonLook()} to="/account">
              Set it up
            </Link>
          </FirstStep>
        )}
        <FirstStep
          done={false}
          title="Sell something"
          text="the first sale that the shop reports ends this list; free of charge will do"
        />
      </Rows>
    </section>
  );
}

function FirstStep({
  done,
  title,
  text,
  children,
}: {
  done: boolean;
  title: string;
  text: string;
  children?: ReactNode;
}) {
  return (
    <Row>
      <Mark kind={done ? 'well' : 'off'} />
      <RowWords>
        <strong>
          {title}
          {done && <span className="font-normal text-soft"> · done</span>}
        </strong>
        <span>{text}</span>
      </RowWords>
      {!done && <RowActs>{children}</RowActs>}
    </Row>
  );
}

/** Where something is connected already, it may only be switched off. */
function ToSystems({ any }: { any: boolean }) {
  return (
    <Link className={buttonLook()} to={any ? '/systems' : '/systems/add'}>
      {any ? 'Systems' : 'Add it'}
    </Link>
  );
}
