import { config } from 'zod';

// The content policy forbids code that is made of text: zod need not try, and browsers need not report it. Before anything
// describes a shape.
config({ jitless: true });
