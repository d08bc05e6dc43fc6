import { Link, Outlet, useLocation } from '@tanstack/react-router';
import { useQueryClient } from '@tanstack/react-query';
import { LogOut, Moon, Sun } from 'lucide-react';
import { api } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownWeekday } from '../ui/dates';
import { useAsOf } from './asOf';
import { Ruler } from './Ruler';
import { useTheme } from './theme';

/** The band on top, with the sections and the date ruler, and the section below it. */
export function Frame() {
  const may = useMay();
  return (
    <>
      <a href="#section" className="skip">
        Skip to the content
      </a>
      <header className="band">
        <nav aria-label="Sections" className="band-sections">
          <Link to="/today" className="wordmark" aria-label="Yoru, to Today">
            yoru<span>.</span>
          </Link>
          <Link to="/today" className="section-link">
            Today <TodayCount />
          </Link>
          {may.setUp && (
            <Link to="/mapping" className="section-link">
              Mapping
            </Link>
          )}
          <Link to="/orders" className="section-link">
            Orders
          </Link>
          <Link to="/people" className="section-link">
            People
          </Link>
          {may.setUp && (
            <Link to="/systems" className="section-link">
              Systems
            </Link>
          )}
          <Link to="/journal" className="section-link">
            Journal
          </Link>
        </nav>
        <Operator />
        <Ruler />
      </header>
      <OtherDay />
      <div id="section" tabIndex={-1}>
        <Outlet />
      </div>
    </>
  );
}

function TodayCount() {
  const { data } = api.useQuery('get', '/api/today', undefined, { refetchInterval: 10_000 });
  const { setUp } = useMay();
  const urgent =
    (data?.failing.length ?? 0) +
    ((data?.orders.overdue ?? 0) > 0 ? 1 : 0) +
    ((data?.held.guests ?? 0) > 0 ? 1 : 0) +
    (setUp ? (data?.findings.filter((one) => one.severity === 'GRAVE').length ?? 0) : 0);
  if (urgent === 0) return null;
  return (
    <span className="count" title={`${urgent} things need a person now`}>
      {urgent}
    </span>
  );
}

function Operator() {
  const session = useSession();
  const may = useMay();
  const queries = useQueryClient();
  const [theme, changeTheme] = useTheme();
  const signOut = api.useMutation('delete', '/api/session', {
    onSuccess: () => {
      queries.clear();
      window.location.assign('/');
    },
  });
  const other = theme === 'yoru-day' ? 'dark' : 'light';
  return (
    <div className="operator">
      <Link to="/exchange" className="section-link">
        In and out
      </Link>
      {may.setUp && (
        <Link to="/policies" className="section-link">
          Policies
        </Link>
      )}
      {may.decideWho && (
        <Link to="/team" className="section-link">
          Team
        </Link>
      )}
      <Link to="/account" className="section-link operator-name">
        {session.name}
      </Link>
      <button className="icon-button" onClick={changeTheme} aria-label={`Change to the ${other} theme`}>
        {theme === 'yoru-day' ? <Moon size={17} aria-hidden /> : <Sun size={17} aria-hidden />}
      </button>
      <button className="icon-button" onClick={() => signOut.mutate({})} aria-label="Sign out">
        <LogOut size={17} aria-hidden />
      </button>
    </div>
  );
}

/** Says, wherever one is, that what is shown is not now. */
function OtherDay() {
  const asOf = useAsOf();
  const { pathname } = useLocation();
  if (asOf.tense === 'now') return null;
  const follows = ['/people', '/orders', '/journal'].some((section) => pathname.startsWith(section));
  const when = shownWeekday(asOf.day);
  return (
    <div className="other-day" role="status">
      <strong>{asOf.tense === 'past' ? `The past: ${when}` : `The future: ${when}`}</strong>
      <span>
        {follows
          ? asOf.tense === 'past'
            ? 'as it was known at the end of that day. Nothing can be changed here.'
            : 'as it will be if nothing more happens. Nothing can be changed here.'
          : 'this section always shows now, whatever day the lamp stands at.'}
      </span>
      <button className="btn btn-sm" onClick={() => asOf.move(asOf.today)}>
        Back to now <kbd>.</kbd>
      </button>
    </div>
  );
}
