import { api } from '../api/client';
import { useMay } from '../session/may';
import { exactMoney } from '../ui/words';
import { Button, Fault, Notice } from '../ui/kit';

/** How far the charge of an order has come; nothing where a shop was not asked for one. */
export function Charge({ order }: { order: string }) {
  const charges = api.useQuery(
    'get',
    '/api/charges',
    { params: { query: { order } } },
    {
      refetchInterval: (query) => (query.state.data?.some((one) => one.state === 'WAITING') ? 2_000 : false),
    },
  );
  const may = useMay();
  const again = api.useMutation('post', '/api/charges/again', { onSuccess: () => charges.refetch() });
  const charge = charges.data?.[0];
  if (charge === undefined) return null;
  const what = `${exactMoney(charge.amount, charge.currency)}, ${charge.label}`;
  switch (charge.state) {
    case 'WAITING':
      return (
        <Notice as="p" role="status">
          {charge.system} is to charge {what}
          {charge.said === '' ? ' …' : `: it ${charge.said}; it is asked again.`}
        </Notice>
      );
    case 'PAID':
      return (
        <p className="text-soft">
          {charge.system} charged {what} ({charge.said}).
        </p>
      );
    case 'REFUSED':
      return (
        <Notice as="p" role="status">
          {charge.system} refused to charge {what}: {charge.said}. The order waits to be paid otherwise.{' '}
          {may.act && (
            <Button small disabled={again.isPending} onClick={() => again.mutate({ body: { order } })}>
              Charge again
            </Button>
          )}
          {again.error !== null && <Fault error={again.error} />}
        </Notice>
      );
    case 'LEFT':
      return (
        <p className="text-soft">
          {what} was not charged: {charge.said}.
        </p>
      );
  }
}
