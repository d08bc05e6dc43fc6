import { useState, type ReactNode } from 'react';
import * as z from 'zod';
import { problemOf } from '../api/client';
import { DataTable, type Column } from '../ui/DataTable';
import { DayField } from '../ui/DayField';
import { Dialog } from '../ui/Dialog';
import { Finder } from '../ui/Finder';
import { Hint } from '../ui/Hint';
import { say } from '../ui/said';
import {
  ActForm,
  Acts,
  Badge,
  Button,
  buttonLook,
  Chain,
  Check,
  Checkbox,
  Chip,
  Choices,
  ConfirmButton,
  CopyText,
  Empty,
  Events,
  Facts,
  Fault,
  Field,
  Headline,
  Margin,
  Mark,
  Notice,
  Panel,
  Period,
  Progress,
  Record,
  Row,
  RowActs,
  Rows,
  RowWords,
  Screen,
  Select,
  Stat,
  Step,
  TextArea,
  TextButton,
  type Tone,
  Two,
  useFields,
  Views,
  Waiting,
} from '../ui/kit';
import { Menu } from '../ui/Menu';
import { Pages } from '../ui/Pages';
import { SearchField } from '../ui/SearchField';

const TONES: Tone[] = ['good', 'bad', 'warn', 'lamp', 'soft', 'violet'];

interface Hive {
  id: string;
  colony: string;
  frames: number;
}

const HIVES: Hive[] = [
  { id: 'Oak', colony: 'calm, from a swarm', frames: 18 },
  { id: 'Ash', colony: 'strong', frames: 22 },
  { id: 'Willow', colony: 'new queen', frames: 9 },
];

const COLUMNS: Column<Hive, 'NAME' | 'FRAMES'>[] = [
  { id: 'name', title: 'Hive', sort: 'NAME', upwards: true, always: true, show: (hive) => hive.id },
  { id: 'colony', title: 'Colony', show: (hive) => hive.colony },
  { id: 'frames', title: 'Frames', sort: 'FRAMES', number: true, show: (hive) => hive.frames },
];

/** Each part of the kit in its states; shown in the demo only. */
export function Kit() {
  return (
    <Screen
      margin={
        <Margin label="Parts of a margin">
          <section>
            <h2>Steps that follow from each other</h2>
            <Chain>
              {TONES.map((tone) => (
                <Step key={tone} tone={tone}>
                  <strong>A step that is {tone}</strong>
                  <span>what it says of itself</span>
                </Step>
              ))}
            </Chain>
          </section>
          <section>
            <h2>Figures</h2>
            <div className="grid grid-cols-3 gap-2">
              <Stat figure={13} words="gain" tone="good" />
              <Stat figure={2} words="lose" tone="bad" />
              <Stat figure={0} words="wait" />
            </div>
          </section>
          <section>
            <h2>Statements</h2>
            <Facts>
              <li>
                <strong>Hive Oak</strong>
                <span>has 18 frames</span>
              </li>
              <li>
                <strong>Hive Ash</strong>
                <span>has 22 frames</span>
              </li>
            </Facts>
          </section>
          <section>
            <h2>To paste elsewhere</h2>
            <CopyText label="It reports to" text="https://yoru.hollowoak.example/hooks/stall" />
          </section>
          <section>
            <h2>What a machine said</h2>
            <Record>{'{"hive": "Oak", "frames": 18}'}</Record>
          </section>
        </Margin>
      }
    >
      <Headline>
        <h1>The kit</h1>
        <p>each part in its states</p>
        <Acts>
          <Button small>An act</Button>
          <Button small kind="main">
            What it is for
          </Button>
        </Acts>
      </Headline>
      <div className="grid gap-x-6 2xl:grid-cols-2">
        <Buttons />
        <Fields />
        <Picks />
        <Lists />
        <States />
      </div>
    </Screen>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2>{title}</h2>
      {children}
    </section>
  );
}

function Buttons() {
  const [asked, setAsked] = useState(false);
  return (
    <Part title="Acts">
      <Panel>
        <Acts className="items-center">
          <Button>Plain</Button>
          <Button kind="main">Main</Button>
          <Button kind="grave">Grave</Button>
          <Button disabled>Not now</Button>
          <Button small>Small</Button>
          <TextButton>in a sentence</TextButton>
          <Menu
            acts={[
              { id: 'one', words: 'One act', onAct: () => undefined },
              { id: 'two', words: 'Another', onAct: () => undefined },
              { id: 'no', words: 'Not now', onAct: () => undefined, disabled: true },
            ]}
          >
            More acts
          </Menu>
          <Button onClick={() => setAsked(true)}>Ask first</Button>
          <Button onClick={() => say('Hive Oak: done.')}>Say it in passing</Button>
          <Hint words="What a control means that has no room for words">
            <button className={buttonLook({ small: true })}>?</button>
          </Hint>
        </Acts>
        <Acts className="items-center">
          <Views as="div">
            <button aria-pressed="true">This view</button>
            <button aria-pressed="false">That view</button>
          </Views>
          {TONES.map((tone) => (
            <Badge key={tone} tone={tone}>
              {tone}
            </Badge>
          ))}
          <Chip>limited to this</Chip>
        </Acts>
      </Panel>
      {asked && (
        <Dialog asks title="Is it to be done?" onClose={() => setAsked(false)}>
          <p className="text-soft">3 people would lose something.</p>
          <Acts>
            <Button kind="main" onClick={() => setAsked(false)}>
              Do it
            </Button>
            <Button onClick={() => setAsked(false)}>Leave it</Button>
          </Acts>
        </Dialog>
      )}
    </Part>
  );
}

const SHAPE = z.object({
  name: z.string().min(1, 'A hive needs a name.'),
  frames: z.string().regex(/^\d+$/, 'A whole number.'),
});

function Fields() {
  const form = useFields(SHAPE, { name: '', frames: 'many' });
  return (
    <Part title="To fill in">
      <Panel as="form" noValidate onSubmit={(event) => void form.handleSubmit(() => undefined)(event)}>
        <Two>
          <Field label="Name of the hive" hint="As it is written on its lid." {...form.field('name')} />
          <Field label="Frames" {...form.field('frames')} />
        </Two>
        <Acts>
          <Button kind="main">Keep it, to see what is wrong</Button>
        </Acts>
      </Panel>
      <ActForm
        aria-label="An act"
        className="mb-3 flex flex-col gap-3 rounded-box border border-line bg-base-100 p-4"
        onConfirm={() => undefined}
      >
        <Field label="Why" placeholder="Enter does not confirm it, Ctrl and Enter do" />
        <TextArea rows={2} aria-label="More words" defaultValue="More words" />
        <Acts>
          <ConfirmButton disabled={false}>Confirm and open</ConfirmButton>
          <ConfirmButton disabled>Not filled in yet</ConfirmButton>
        </Acts>
      </ActForm>
    </Part>
  );
}

function Picks() {
  const [words, setWords] = useState('');
  const [day, setDay] = useState('2026-11-28');
  const [choice, setChoice] = useState('for');
  const [period, setPeriod] = useState('P1Y');
  const [query, setQuery] = useState('');
  return (
    <Part title="To pick">
      <Panel>
        <Finder
          label="Hive"
          placeholder="Type “a” and choose"
          words={words}
          onWords={setWords}
          found={HIVES.filter((hive) => hive.id.toLowerCase().includes(words.toLowerCase()))}
          idOf={(hive) => hive.id}
          show={(hive) => hive.id}
          onChoose={() => undefined}
          nothing="No hive is called that."
        />
        <Acts className="items-center">
          <DayField label="Day" inline value={day} onChange={setDay} />
          <Select aria-label="Hive">
            {HIVES.map((hive) => (
              <option key={hive.id}>{hive.id}</option>
            ))}
          </Select>
          <SearchField label="Find" placeholder="Find" value={query} onChange={setQuery} />
        </Acts>
        <Choices
          legend="How long"
          value={choice}
          onChoose={setChoice}
          choices={[
            ['always', 'always'],
            ['for', 'for', <Period key="for" value={period} onChange={setPeriod} />],
          ]}
        />
        <Check>
          <Checkbox defaultChecked /> ticked
        </Check>
      </Panel>
    </Part>
  );
}

function Lists() {
  const [sort, setSort] = useState<'NAME' | 'FRAMES'>('NAME');
  const [page, setPage] = useState(0);
  const rows = HIVES.toSorted((one, other) =>
    sort === 'NAME' ? one.id.localeCompare(other.id) : other.frames - one.frames,
  );
  return (
    <Part title="Lists">
      <DataTable
        name="kit"
        label="Hives"
        columns={COLUMNS}
        rows={rows}
        idOf={(hive) => hive.id}
        sort={sort}
        onSort={setSort}
      >
        <span className="text-soft">3 hives</span>
      </DataTable>
      <Pages total={120} pageSize={50} page={page} onPage={setPage} />
      <Rows className="my-3">
        {(['grave', 'soon', 'later', 'well', 'off'] as const).map((kind) => (
          <Row key={kind}>
            <Mark kind={kind} />
            <RowWords>
              <strong>Something that is {kind}</strong>
              <span>what is to be known of it</span>
            </RowWords>
            <RowActs>
              <Button>Look</Button>
            </RowActs>
          </Row>
        ))}
      </Rows>
      <Events>
        <li>
          <time dateTime="2026-11-28T09:00:00Z">28 Nov 2026, 09:00:00</time>
          <strong>Hive opened</strong>
          <span>all was well</span>
        </li>
      </Events>
    </Part>
  );
}

function States() {
  return (
    <Part title="States">
      <Notice>
        <strong>Something to know</strong>
        <span>before going on.</span>
      </Notice>
      <Fault error={{ title: 'Not done', detail: 'The hive is asleep. Nothing was changed.' }} />
      <Fault error={problemOf(new TypeError('fetch'))} />
      <Waiting what="the hives" />
      <div className="my-3 flex">
        <Progress label="How far it is" done={40} of={100} />
      </div>
      <Empty title="There are no hives yet.">
        <p>Hives appear when somebody puts one up.</p>
      </Empty>
    </Part>
  );
}
