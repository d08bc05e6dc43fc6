import { useQueryClient } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { api, type Schemas } from '../api/client';
import { connection, useConnection } from '../api/connection';
import { router } from '../router';
import { ChoosePassword } from './ChoosePassword';
import { FirstRun } from './FirstRun';
import { Proof } from './Proof';
import { SessionContext } from './session';
import { SignIn, SignInForm } from './SignIn';
import { Fault } from '../ui/kit';

const Toasts = lazy(() => import('../ui/Toasts').then(({ Toasts }) => ({ default: Toasts })));
const Dialog = lazy(() => import('../ui/Dialog').then(({ Dialog }) => ({ default: Dialog })));

/** Decides what is shown: the first run, the sign-in, or the application. */
export function Gate() {
  const standing = useConnection();
  const queries = useQueryClient();
  const session = api.useQuery('get', '/api/session', undefined, {
    refetchInterval: standing === 'lost' ? 2_000 : false,
    staleTime: 60_000,
  });
  const place = window.location.pathname;
  // read once: it does not stay in the address
  const [code] = useState(() => (place === '/password' ? window.location.hash.slice(1) : ''));
  const wasLost = useRef(false);
  useEffect(() => {
    if (wasLost.current && standing === 'well') void queries.invalidateQueries();
    wasLost.current = standing === 'lost';
  }, [standing, queries]);

  const entered = () => {
    connection.signedIn();
    void queries.invalidateQueries();
  };
  if (session.data === undefined) {
    return session.error !== null ? (
      <div className="max-w-xl p-12">
        <Fault error={session.error} />
      </div>
    ) : null;
  }
  if (session.data.name === undefined && standing !== 'signed-out') {
    const home = () => {
      window.history.replaceState(null, '', '/');
      entered();
    };
    if (place === '/first') return <FirstRun onDone={home} />;
    if (place === '/password' && code !== '') return <ChoosePassword code={code} onDone={home} />;
    return <SignIn session={session.data} onDone={entered} />;
  }
  return (
    <SessionContext value={session.data}>
      <RouterProvider router={router} />
      <Suspense>
        <Toasts />
      </Suspense>
      {standing === 'lost' && (
        <div role="alert" className="fixed inset-x-0 bottom-0 z-30 bg-[#7c1f14] px-5 py-3 text-white">
          <strong>Yoru&rsquo;s server does not answer.</strong> What you see may be out of date. Nothing you
          typed is lost; it is tried again every two seconds.
        </div>
      )}
      {standing === 'signed-out' && <SignInAgain session={session.data} onDone={entered} />}
      {standing === 'unproved' && <ProveAgain />}
    </SessionContext>
  );
}

/** Over the form whose act was held back; it is done when somebody asks for it once more. */
function ProveAgain() {
  const proved = () => connection.signedIn();
  return (
    <Suspense>
      <Dialog title="Is it still you?" onClose={proved}>
        <p className="text-soft">
          Who works with Yoru and what systems are let in with is changed only by who has just proved who they
          are. After this, do it once more.
        </p>
        <Proof onDone={proved} onEnd={proved} />
      </Dialog>
    </Suspense>
  );
}

/** Over the screen that was open, so that nothing typed there is lost. */
function SignInAgain({ session, onDone }: { session: Schemas['Session']; onDone: () => void }) {
  return (
    <Suspense>
      <Dialog title="Your session has ended">
        <p className="text-soft">
          Sign in again to go on where you were. Your draft and what you typed are kept.
        </p>
        <SignInForm session={session} onDone={onDone} />
      </Dialog>
    </Suspense>
  );
}
