import * as z from 'zod';

/** What to take, where somebody chooses one. */
export const NEW_PASSWORD_HINT =
  'At least 10 characters; several words that have nothing to do with each other are best.';

/** As the server wants it (docs/security.md). */
export const NEW_PASSWORD = z
  .string()
  .min(10, 'It needs at least 10 characters.')
  .max(200, 'It may have at most 200 characters.');
