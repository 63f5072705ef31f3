import { msg } from '@kestfog/core/words';
import { Link, useNavigate, useParams } from 'react-router';
import { useCopyDesign, useDesign, useRemoveDesign } from '../api/queries.js';
import { DesignWork } from '../features/designs/DesignWork.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { usePutBack } from '../ui/use-put-back.js';
import { useTitle } from '../ui/use-title.js';

export function DesignPage() {
  const { designId = '' } = useParams();
  const design = useDesign(designId);
  useTitle(design.data?.name ?? null);
  const copy = useCopyDesign();
  const remove = useRemoveDesign();
  const navigate = useNavigate();
  const putBack = usePutBack('designs');
  if (design.isError && !design.data)
    return (
      <div className="pt-10">
        <Notice title={msg`The design could not be read`} tone="closing">
          {design.error.message}{' '}
          <Link to="/designs" className="link">
            {msg`Back to the designs`}
          </Link>
        </Notice>
      </div>
    );
  if (!design.data) return <Loading what={msg`getting the design`} />;
  const d = design.data;
  return (
    <>
      <p className="pt-2 text-lg">
        <Link to="/designs" className="link link-hover">
          {msg`Designs`}
        </Link>
      </p>
      <NotKeptHere place={`/designs/${d.id}`} />
      <DesignWork
        key={d.id}
        view={d}
        actions={
          <>
            <Link to={`/designs/${d.id}/sheets`} className="btn">
              {msg`Sheets`}
            </Link>
            <button
              type="button"
              className="btn"
              disabled={copy.isPending}
              onClick={() =>
                copy.mutate(
                  { id: d.id, name: msg`${d.name}, another palette`.slice(0, 80) },
                  { onSuccess: ({ id, waits }) => void navigate(waits ? '/designs' : `/designs/${id}`) },
                )
              }
            >
              {msg`Copy for another palette`}
            </button>
            <button
              type="button"
              className="btn btn-ghost"
              disabled={remove.isPending}
              onClick={() =>
                remove.mutate(
                  { id: d.id, name: d.name },
                  {
                    onSuccess: () => {
                      putBack({ id: d.id, name: d.name });
                      void navigate('/designs');
                    },
                  },
                )
              }
            >
              {msg`Delete`}
            </button>
            {(copy.isError || remove.isError) && (
              <span role="alert" className="text-error font-medium">
                {(copy.error ?? remove.error)?.message}
              </span>
            )}
          </>
        }
      />
    </>
  );
}
