import * as z from 'zod';

/** As the server wants it (docs/security.md). */
export const NEW_PASSWORD = z
  .string()
  .min(10, 'It needs at least 10 characters.')
  .max(200, 'It may have at most 200 characters.');
