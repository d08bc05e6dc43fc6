import { Link } from '@tanstack/react-router';
import { Views } from '../ui/kit';

/** What only an owner decides. */
export function OwnersViews() {
  return (
    <Views aria-label="What owners decide">
      <Link to="/team">Team</Link>
      <Link to="/school">School</Link>
    </Views>
  );
}
