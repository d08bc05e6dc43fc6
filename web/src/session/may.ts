import { useSession } from './session';

/** What the one who is signed in may do; what they may not is not shown, and the server refuses it. */
export function useMay() {
  const { role } = useSession();
  return {
    /** People and orders. */
    act: role === 'OWNER' || role === 'OPERATOR' || role === 'SUPPORT',
    /** The mapping and the systems. */
    setUp: role === 'OWNER' || role === 'OPERATOR',
    /** Who works with Yoru. */
    decideWho: role === 'OWNER',
  };
}
