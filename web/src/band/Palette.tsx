import { useNavigate } from '@tanstack/react-router';
import { useDeferredValue, useState } from 'react';
import {
  Autocomplete,
  Dialog,
  Header,
  Input,
  Menu,
  MenuItem,
  MenuSection,
  Modal,
  ModalOverlay,
  SearchField,
} from 'react-aria-components';
import { api } from '../api/client';
import { matches, useOffer } from '../desk/offer';
import { useMay } from '../session/may';
import { ASIDE, BEHIND, SECTIONS, seen } from './sections';
import { useTheme } from './theme';

/** So many of each sort are offered. */
const MOST = 6;

interface Way {
  id: string;
  words: string;
  more?: string;
  go: () => unknown;
}

/** Leads to any person, order, product, course, section or act, by a few letters. */
export function Palette({ onClose }: { onClose: () => void }) {
  const [words, setWords] = useState('');
  const groups = useWays(words.trim());
  const all = groups.flatMap(({ ways }) => ways);
  return (
    <ModalOverlay
      isOpen
      isDismissable
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      className="fixed inset-0 z-30 flex justify-center bg-night/65 p-3 pt-[10dvh]"
    >
      <Modal className="flex h-fit max-h-[75dvh] w-full max-w-xl flex-col overflow-hidden rounded-box border border-line bg-base-100 text-base-content">
        <Dialog aria-label="Find anything" className="flex min-h-0 flex-col outline-none">
          <Autocomplete inputValue={words} onInputChange={setWords}>
            <SearchField
              aria-label="Find a person, order, product, course, section or act"
              // it is opened to type into
              // eslint-disable-next-line jsx-a11y/no-autofocus
              autoFocus
              className="border-b border-line"
            >
              <Input
                className="w-full bg-transparent px-4 py-3 text-[1.05rem] outline-none placeholder:text-soft"
                placeholder="Person, order, product, course, section, act …"
              />
            </SearchField>
            <Menu
              aria-label="Found"
              className="min-h-16 flex-1 overflow-auto p-1.5 outline-none"
              renderEmptyState={() => <p className="px-3 py-2 text-soft">Nothing is called that.</p>}
              onAction={(key) => {
                onClose();
                all.find((way) => way.id === key)?.go();
              }}
            >
              {groups.map(({ title, ways }) => (
                <MenuSection key={title}>
                  <Header className="px-2.5 pt-2 pb-0.5 text-[0.82rem] font-semibold text-soft">
                    {title}
                  </Header>
                  {ways.map((way) => (
                    <MenuItem
                      key={way.id}
                      id={way.id}
                      textValue={way.words}
                      className="flex cursor-pointer items-baseline justify-between gap-3 rounded-field px-2.5 py-1.5 outline-none data-focused:bg-chosen"
                    >
                      <span className="font-medium">{way.words}</span>
                      {way.more !== undefined && (
                        <span className="truncate text-[0.88rem] text-soft">{way.more}</span>
                      )}
                    </MenuItem>
                  ))}
                </MenuSection>
              ))}
            </Menu>
          </Autocomplete>
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}

function useWays(words: string): { title: string; ways: Way[] }[] {
  const navigate = useNavigate();
  const asked = useDeferredValue(words);
  const may = useMay();
  const offer = useOffer();
  const [theme, changeTheme] = useTheme();
  // what was found for other words is not offered: Enter would lead there
  const ask = { enabled: asked !== '' };
  const people = api.useQuery('get', '/api/people', { params: { query: { q: asked, sort: 'NAME' } } }, ask);
  const orders = api.useQuery('get', '/api/orders', { params: { query: { q: asked } } }, ask);
  const followups = api.useQuery('get', '/api/followups', undefined, ask);
  const rehearsals = api.useQuery('get', '/api/rehearsals', undefined, {
    enabled: asked !== '' && may.setUp,
  });
  const sections = seen([...SECTIONS, ...ASIDE, ...BEHIND], may).map(({ to, words: title }): Way => ({
    id: to,
    words: title,
    go: () => navigate({ to }),
  }));
  const acts: Way[] = [
    ...(may.act
      ? [{ id: 'by-hand', words: 'Order by hand', go: () => navigate({ to: '/orders/by-hand' }) }]
      : []),
    ...(may.setUp
      ? [{ id: 'add-system', words: 'Add a system', go: () => navigate({ to: '/systems/add' }) }]
      : []),
    { id: 'quotes', words: 'Quotes', go: () => navigate({ to: '/quotes' }) },
    { id: 'segments', words: 'Segments', go: () => navigate({ to: '/people/segments' }) },
    { id: 'held', words: 'What is held', go: () => navigate({ to: '/held' }) },
    {
      id: 'theme',
      words: `Change to the ${theme === 'yoru-day' ? 'dark' : 'light'} theme`,
      go: changeTheme,
    },
  ];
  const thing = (path: string) => () =>
    navigate({ to: '/mapping', search: { view: 'catalogue', thing: path } });
  const things = !may.setUp
    ? []
    : [
        ...(offer?.products ?? []).map((product) => ({
          id: `product/${product.id}`,
          words: product.title,
          more: `product ${product.id}`,
          go: thing(`product/${product.id}`),
        })),
        ...(offer?.targets ?? []).map((target) => ({
          id: target.target,
          words: target.title,
          more: target.sort,
          go: thing(target.target),
        })),
      ];
  const named = (ways: Way[]) => ways.filter((way) => matches(asked, way.words)).slice(0, MOST);
  const groups = [
    {
      title: 'People',
      ways: (asked === '' ? [] : (people.data?.people ?? [])).slice(0, MOST).map((person) => ({
        id: `person-${person.id}`,
        words: person.name,
        more: person.key,
        go: () => navigate({ to: '/people/$id', params: { id: String(person.id) } }),
      })),
    },
    {
      title: 'Orders',
      ways: (asked === '' ? [] : (orders.data?.orders ?? [])).slice(0, MOST).map((order) => ({
        id: `order-${order.id}`,
        words: `Order ${order.id}`,
        more: `${order.name}: ${order.products.join(', ')}`,
        go: () => navigate({ to: '/orders/$id', params: { id: order.id } }),
      })),
    },
    { title: 'Products and what they open', ways: asked === '' ? [] : named(things) },
    {
      title: 'Follow-ups',
      ways:
        asked === ''
          ? []
          : named(
              (followups.data ?? []).map((one) => ({
                id: `followup-${one.id}`,
                words: one.title,
                more: one.on ? `${one.lately} in 90 days` : 'off',
                go: () =>
                  navigate({
                    to: '/followups',
                    search: may.setUp ? { which: one.id } : { view: 'lately', which: one.id },
                  }),
              })),
            ),
    },
    {
      title: 'Rehearsals',
      ways:
        asked === ''
          ? []
          : named(
              (rehearsals.data ?? []).map((one) => ({
                id: `rehearsal-${one.id}`,
                words: one.title,
                more: one.fails === undefined ? 'as expected' : 'not as expected',
                go: () => navigate({ to: '/rehearse', search: { which: one.id } }),
              })),
            ),
    },
    { title: 'Sections', ways: asked === '' ? sections : named(sections) },
    { title: 'Acts', ways: named(acts) },
  ];
  return groups.filter(({ ways }) => ways.length > 0);
}
