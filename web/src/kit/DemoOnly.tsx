import { lazy, Suspense } from 'react';
import { useSession } from '../session/session';
import { Empty, Screen } from '../ui/kit';

const Kit = lazy(() => import('./Kit').then(({ Kit }) => ({ default: Kit })));

/** The parts are shown where nothing real is: a school of its own has no such page. */
export function DemoOnly() {
  const { demoSignIn } = useSession();
  return demoSignIn === undefined ? (
    <Screen>
      <Empty title="There is no such page." />
    </Screen>
  ) : (
    <Suspense>
      <Kit />
    </Suspense>
  );
}
