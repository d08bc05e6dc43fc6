import { keepPreviousData } from '@tanstack/react-query';
import { api } from '../api/client';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { asDraft, type Draft } from './draft';
import { useFix } from './Findings';
import { FoundList } from './FoundList';

const SETTLED_MS = 300;

/** What a look at the mapping would find once the draft is published, before it is. */
export function DraftFindings({ draft }: { draft: Draft }) {
  const fix = useFix();
  const [wanted] = useSettled(asDraft(draft), SETTLED_MS);
  const { data } = api.useQuery(
    'post',
    '/api/findings/draft',
    { body: wanted },
    { placeholderData: keepPreviousData, retry: false },
  );
  if (data === undefined) return null; // what is wrong with the draft itself is said with its figures
  const { brought, standing, mended } = data;
  const grave = [...brought, ...standing].some((one) => one.severity === 'GRAVE');
  return (
    <>
      {brought.length + standing.length > 0 && (
        <section
          className={`border-l-[3px] pl-3 ${grave ? 'border-error' : 'border-lamp'}`}
          aria-label="Found in this draft"
          aria-live="polite"
        >
          {brought.length > 0 && (
            <>
              <h2>This draft brings</h2>
              <FoundList found={brought} onFix={fix} />
            </>
          )}
          {standing.length > 0 && (
            <>
              <h2>It does not mend</h2>
              <FoundList found={standing} onFix={fix} />
            </>
          )}
        </section>
      )}
      {mended > 0 && <p className="text-soft py-2">It mends {counted(mended, 'finding', 'findings')}.</p>}
    </>
  );
}
