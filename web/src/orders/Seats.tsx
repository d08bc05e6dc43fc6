import { Link } from '@tanstack/react-router';
import { useTouch } from '../api/touch';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import type { OrderDeed } from './OrderAct';
import type { OrderShown } from './words';
import { Button, Fault, Input, TextButton } from '../ui/kit';

interface Props {
  line: Schemas['ShownLine'];
  order: OrderShown;
  /** None = on another day. */
  onDeed: ((deed: OrderDeed) => void) | undefined;
}

/** The seats and gifts of a line: who has them, and how far those are that nobody has. */
export function Seats({ line, order, onDeed }: Props) {
  const gifts = api.useQuery(
    'get',
    '/api/orders/{id}/gifts',
    { params: { path: { id: order.id } } },
    { enabled: line.seats.length > 0, refetchInterval: 5_000 },
  );
  const free = line.seats.filter((seat) => seat.person === undefined);
  return (
    <>
      {line.seats.map((seat) => (
        <span key={seat.number}>
          seat {seat.number}:{' '}
          {seat.person === undefined ? (
            <Free
              order={order}
              line={line.line}
              seat={seat.number}
              gift={gifts.data?.find((one) => one.line === line.line && one.seat === seat.number)}
              onDeed={order.cancelled ? undefined : onDeed}
            />
          ) : (
            <Link to="/people/$id" params={{ id: String(seat.person) }}>
              {seat.name}
            </Link>
          )}
        </span>
      ))}
      {free.length > 0 && onDeed !== undefined && !order.cancelled && <ForTheBuyer order={order.id} />}
      {free.length > 1 && onDeed !== undefined && !order.cancelled && (
        <span>
          <TextButton onClick={() => onDeed({ kind: 'ASSIGN', line: line.line })}>
            Give seats to a list of people
          </TextButton>
        </span>
      )}
    </>
  );
}

/** An address to hand to whoever bought the seats; it is shown once. */
function ForTheBuyer({ order }: { order: string }) {
  const link = api.useMutation('post', '/api/orders/{id}/seats/link');
  return (
    <span>
      {link.data === undefined ? (
        <TextButton
          disabled={link.isPending}
          onClick={() => link.mutate({ params: { path: { id: order } } })}
        >
          Make a link for the buyer
        </TextButton>
      ) : (
        <>
          Hand this to the buyer, it is shown once; one made before leads nowhere now:{' '}
          <code>{link.data.address}</code>
        </>
      )}
      {link.error !== null && <Fault error={link.error} />}
    </span>
  );
}

function Free({
  order,
  line,
  seat,
  gift,
  onDeed,
}: {
  order: OrderShown;
  line: string;
  seat: number;
  gift: Schemas['OfferedSeat'] | undefined;
  onDeed: Props['onDeed'];
}) {
  const { zone } = useSession();
  const touch = useTouch();
  const [asking, setAsking] = useState(false);
  const [address, setAddress] = useState('');
  const settle = {
    onSuccess: () => setAsking(false),
    onSettled: () => touch('access'),
  };
  const send = api.useMutation('post', '/api/orders/{id}/gifts/send', settle);
  const withdraw = api.useMutation('post', '/api/orders/{id}/gifts/withdraw', settle);
  const about = { params: { path: { id: order.id } } };
  const fault = send.error ?? withdraw.error;
  return (
    <>
      nobody yet{gift !== undefined && `, ${offered(gift, zone)}`}{' '}
      {onDeed !== undefined && (
        <span className="inline-flex flex-wrap items-center gap-2.5">
          {asking ? (
            <>
              <Input
                type="email"
                aria-label={`Address for seat ${seat}`}
                placeholder={gift?.address ?? 'E-mail address'}
                value={address}
                onChange={(event) => setAddress(event.target.value)}
              />
              <Button
                small
                disabled={send.isPending || (address.trim() === '' && gift === undefined)}
                onClick={() =>
                  send.mutate({
                    ...about,
                    body: { line, seat, ...(address.trim() !== '' && { address: address.trim() }) },
                  })
                }
              >
                {send.isPending ? 'Sending …' : 'Send the link'}
              </Button>
            </>
          ) : (
            <TextButton onClick={() => setAsking(true)}>
              {gift?.state === 'SENT' ? 'Send again' : 'Send a link'}
            </TextButton>
          )}
          {gift !== undefined && gift.state !== 'WITHDRAWN' && (
            <TextButton
              disabled={withdraw.isPending}
              onClick={() => withdraw.mutate({ ...about, body: { line, seat } })}
            >
              Withdraw
            </TextButton>
          )}
          <TextButton onClick={() => onDeed({ kind: 'CLAIM', line, number: seat })}>
            Give it to somebody
          </TextButton>
        </span>
      )}
      {fault !== null && <Fault error={fault} />}
    </>
  );
}

function offered(gift: Schemas['OfferedSeat'], zone: string): string {
  switch (gift.state) {
    case 'SENT':
      return `sent to ${gift.address}${gift.sentAt === undefined ? '' : ` on ${shownDate(gift.sentAt, zone)}`}${gift.over ? ', too late to take it up' : ''}`;
    case 'WITHDRAWN':
      return 'withdrawn';
    case 'WAITING': {
      if (gift.sendOn === undefined) return `not sent to ${gift.address} yet`;
      const noon = `${gift.sendOn}T12:00:00Z`;
      return Date.parse(noon) > Date.now()
        ? `goes to ${gift.address} on ${shownDate(noon, zone)}`
        : `was to go to ${gift.address} on ${shownDate(noon, zone)}, not sent yet`;
    }
  }
}
