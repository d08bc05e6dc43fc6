import '@testing-library/jest-dom/vitest';
import { cleanup, configure } from '@testing-library/react';
import { afterEach } from 'vitest';

// a machine that does other things too may be slow
configure({ asyncUtilTimeout: 10_000 });
afterEach(cleanup);
