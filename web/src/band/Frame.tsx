import { Link, Outlet, useLocation, useNavigate } from '@tanstack/react-router';
import { useQueryClient } from '@tanstack/react-query';
import { LogOut, Menu as Bars, Moon, Search, Sun } from 'lucide-react';
import { lazy, Suspense, useEffect, useState, type ReactNode } from 'react';
import { api } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownWeekday } from '../ui/dates';
import { useAsOf } from './asOf';
import { Ruler } from './Ruler';
import { ASIDE, BEHIND, SECTIONS, seen, type Section } from './sections';
import { useTheme } from './theme';

const fetchPalette = () => import('./Palette').then(({ Palette }) => ({ default: Palette }));
const Palette = lazy(fetchPalette);
const Menu = lazy(() => import('../ui/Menu').then(({ Menu }) => ({ default: Menu })));
const DayButton = lazy(() => import('./DayButton').then(({ DayButton }) => ({ default: DayButton })));

const LINK =
  'flex items-center gap-1.5 rounded-field px-2.5 py-1.5 font-medium text-night-soft no-underline hover:bg-white/8 aria-[current=page]:bg-white/15 aria-[current=page]:text-white xl:px-3';
const ICON = 'cursor-pointer rounded-field p-1.5 text-night-soft hover:bg-white/12';

/** The band on top, with the sections and the date ruler, and the section below it. */
export function Frame() {
  const may = useMay();
  const [looking, setLooking] = useState(false);
  useFindKey(() => setLooking(true));
  // fetched once the screen stands, so that the first letters typed into it are not lost
  useEffect(() => {
    // where it cannot be fetched now, it is when somebody asks for it
    const timer = setTimeout(() => void fetchPalette().catch(() => undefined), 1_500);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#section"
        className="absolute -left-[999px] z-20 bg-base-100 px-4 py-2 focus:top-2 focus:left-4"
      >
        Skip to the content
      </a>
      <header className="sticky top-0 z-10 print:hidden grid grid-cols-[1fr_auto] items-center gap-x-2 bg-(image:--band) px-3 pt-2 pb-1 text-night-ink sm:px-5 [&_:focus-visible]:outline-lamp">
        <nav aria-label="Sections" className="flex items-center gap-0.5">
          <Link
            to="/today"
            className="mr-2 font-head text-[1.65rem] leading-none font-[750] tracking-[-0.03em] text-[#fffefa] no-underline xl:mr-6"
            aria-label="Yoru, to Today"
          >
            yoru<span className="text-lamp">.</span>
          </Link>
          <div className="hidden items-center gap-0.5 md:flex">
            {seen(SECTIONS, may).map((section) => (
              <SectionLink key={section.to} section={section}>
                {section.to === '/today' && <TodayCount />}
              </SectionLink>
            ))}
          </div>
          <span className="md:hidden">
            <TodayCount />
          </span>
        </nav>
        <Operator onFind={() => setLooking(true)} />
        <div className="col-span-full hidden md:block">
          <Ruler />
        </div>
      </header>
      <OtherDay />
      <div id="section" tabIndex={-1} className="flex flex-1 flex-col outline-none">
        <Outlet />
      </div>
      {looking && (
        <Suspense>
          <Palette onClose={() => setLooking(false)} />
        </Suspense>
      )}
    </div>
  );
}

/** Ctrl K, wherever one is, also while typing. */
function useFindKey(onFind: () => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return;
      event.preventDefault();
      onFind();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onFind]);
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
    <span
      className="rounded-full bg-lamp px-2 text-[0.82rem] font-bold text-[#1b1b32]"
      title={`${urgent} things need a person now`}
    >
      {urgent}
    </span>
  );
}

function Operator({ onFind }: { onFind: () => void }) {
  const session = useSession();
  const may = useMay();
  const navigate = useNavigate();
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
    <div className="flex items-center gap-1 text-[0.93rem]">
      <span className="md:hidden">
        <Suspense>
          <DayButton />
        </Suspense>
      </span>
      <button className={`${ICON} flex items-center gap-1.5`} onClick={onFind} aria-label="Find anything">
        <Search size={17} aria-hidden />
        <kbd className="hidden font-code text-2xs xl:inline">Ctrl K</kbd>
      </button>
      <div className="hidden items-center gap-0.5 lg:flex">
        {seen(ASIDE, may).map((section) => (
          <SectionLink key={section.to} section={section} />
        ))}
        <Link to="/account" className={`${LINK} max-w-40`}>
          <span className="truncate">{session.name}</span>
        </Link>
      </div>
      <button className={ICON} onClick={changeTheme} aria-label={`Change to the ${other} theme`}>
        {theme === 'yoru-day' ? <Moon size={17} aria-hidden /> : <Sun size={17} aria-hidden />}
      </button>
      <button className={`${ICON} hidden lg:block`} onClick={() => signOut.mutate({})} aria-label="Sign out">
        <LogOut size={17} aria-hidden />
      </button>
      <span className="lg:hidden">
        <Suspense>
          <Menu
            name="All sections"
            className={ICON}
            acts={[
              ...seen([...SECTIONS, ...ASIDE, ...BEHIND], may).map(({ to, words }) => ({
                id: to,
                words,
                onAct: () => void navigate({ to }),
              })),
              { id: '/account', words: session.name, onAct: () => void navigate({ to: '/account' }) },
              { id: 'sign-out', words: 'Sign out', onAct: () => signOut.mutate({}) },
            ]}
          >
            <Bars size={20} aria-hidden />
          </Menu>
        </Suspense>
      </span>
    </div>
  );
}

function SectionLink({ section, children }: { section: Section; children?: ReactNode }) {
  const { pathname } = useLocation();
  const isWithin = section.with?.some((page) => pathname.startsWith(page)) ?? false;
  return (
    <Link
      to={section.to}
      className={isWithin ? `${LINK} bg-white/15 text-white` : LINK}
      {...(isWithin && { 'aria-current': 'true' })}
    >
      {section.words} {children}
    </Link>
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
    <div
      className="flex flex-wrap items-center gap-x-3 gap-y-1 bg-[repeating-linear-gradient(-45deg,#f7d48d_0_12px,#f3ca78_12px_24px)] px-3 py-1.5 text-[#2a1d00] sm:px-5"
      role="status"
    >
      <strong>{asOf.tense === 'past' ? `The past: ${when}` : `The future: ${when}`}</strong>
      <span>
        {follows
          ? asOf.tense === 'past'
            ? 'as it was known at the end of that day. Nothing can be changed here.'
            : 'as it will be if nothing more happens. Nothing can be changed here.'
          : 'this section always shows now, whatever day the lamp stands at.'}
      </span>
      <button
        className="btn btn-sm ml-auto border-0 bg-[#fffefa] text-[#1b1b32]"
        onClick={() => asOf.move(asOf.today)}
      >
        Back to now <kbd className="kbd kbd-sm border-current/40 bg-transparent text-inherit">.</kbd>
      </button>
    </div>
  );
}
