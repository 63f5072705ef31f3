import { msg } from '@kestfog/core/words';
import { useAcross, useNotebook } from '../api/notebook.js';
import { useKitchen } from '../api/queries.js';
import { useListWish } from '../app/use-list-wish.js';
import { useLooked } from '../app/use-looked.js';
import { CountsAnswer } from '../features/notebook/CountsAnswer.js';
import { CrustAnswer, HonestyAnswer, LastTimeAnswer, NervesAnswer, PaceAnswer } from '../features/notebook/Questions.js';
import { RunList } from '../features/notebook/RunList.js';
import { Choice } from '../ui/Choice.js';
import { Pages, SearchBox } from '../ui/ListTools.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { useTitle } from '../ui/use-title.js';

const ANSWERS = {
  crust: CrustAnswer,
  nerves: NervesAnswer,
  last: LastTimeAnswer,
  pace: PaceAnswer,
  counts: CountsAnswer,
  honest: HonestyAnswer,
} as const;
const WORDS = {
  evenings: msg`evenings`,
  crust: msg`how long does crust take?`,
  nerves: msg`which design costs most nerves?`,
  last: msg`what went wrong last time?`,
  pace: msg`am I getting faster?`,
  counts: msg`how do my bags count?`,
  honest: msg`was the plan honest?`,
} as const;
type Asked = keyof typeof WORDS;
const isAnswer = (asked: Asked): asked is keyof typeof ANSWERS => asked !== 'evenings';

/** What happened, and what it teaches: fed by the runs, never by forms. */
export function NotebookPage() {
  useTitle(msg`Notebook`);
  const [looked, look] = useLooked<'ask'>();
  const asked: Asked = looked('ask') in WORDS ? (looked('ask') as Asked) : 'evenings';
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-4">{msg`Notebook`}</h1>
      <Choice
        label={msg`what is asked of it`}
        value={asked}
        options={(Object.keys(WORDS) as Asked[]).map((id) => ({ id, label: WORDS[id] }))}
        onChange={(id) => look({ ask: id === 'evenings' ? '' : id })}
      />
      <NotKeptHere place="/notebook" />
      <div className="mt-6">{isAnswer(asked) ? <Answer asked={asked} /> : <Evenings />}</div>
    </>
  );
}

function Evenings() {
  const { wish, search, toPage } = useListWish();
  const runs = useNotebook(wish);
  if (runs.isError && !runs.data)
    return (
      <Notice title={msg`The notebook could not be read`} tone="closing">
        {runs.error.message}{' '}
        <button type="button" className="link" onClick={() => void runs.refetch()}>
          {msg`Try again`}
        </button>
      </Notice>
    );
  if (!runs.data) return <Loading what={msg`opening the notebook`} />;
  return (
    <>
      <div className="mb-5">
        <SearchBox label={msg`look for an evening`} first={wish.q} onSearch={search} />
      </div>
      {runs.data.total === 0 ? (
        wish.q === '' ? (
          <Notice
            title={msg`Nothing is in it yet`}
          >{msg`An evening comes here by itself once the last cookie of its run is packed.`}</Notice>
        ) : (
          <Notice title={msg`Nothing with "${wish.q}" in it`}>
            {msg`Look for a part of the order’s name, a design, what went wrong, or a word of a lesson.`}
          </Notice>
        )
      ) : (
        <RunList runs={runs.data.items} />
      )}
      <Pages page={runs.data.page} pages={runs.data.pages} onPage={toPage} />
    </>
  );
}

function Answer({ asked }: { readonly asked: keyof typeof ANSWERS }) {
  const across = useAcross();
  const kitchen = useKitchen();
  const failure = across.error ?? kitchen.error;
  if (failure && !(across.data && kitchen.data))
    return (
      <Notice title={msg`It could not be worked out`} tone="closing">
        {failure.message}
      </Notice>
    );
  if (!across.data || !kitchen.data) return <Loading what={msg`reading all evenings`} />;
  const Shown = ANSWERS[asked];
  return (
    <section aria-label={WORDS[asked]}>
      {across.data.simulated && (
        <p className="text-lg border-l-4 border-base-300 pl-4 mb-5">
          {msg`These are the demo’s simulated evenings. With the first run of your own they are left out.`}
        </p>
      )}
      <Shown across={across.data} kitchen={kitchen.data} />
    </section>
  );
}
