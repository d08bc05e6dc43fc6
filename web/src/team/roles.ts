import type { Schemas } from '../api/client';

export type Role = Schemas['Member']['role'];

export const ROLES: Record<Role, { title: string; may: string }> = {
  OWNER: { title: 'Owner', may: 'everything, also who works with Yoru' },
  OPERATOR: { title: 'Operator', may: 'people, orders, the mapping and the systems' },
  SUPPORT: { title: 'Support', may: 'people and orders; neither the mapping nor the systems' },
  READER: { title: 'Reader', may: 'looks at people and orders, and changes nothing' },
};

export const ORDER = ['OWNER', 'OPERATOR', 'SUPPORT', 'READER'] as const satisfies Role[];

export function isRole(text: string): text is Role {
  return text in ROLES;
}
