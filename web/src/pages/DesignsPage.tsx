import { startingDrawing, startingShapes } from '@kestfog/core/design';
import { msg, plural } from '@kestfog/core/words';
import { lazy, Suspense, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { refOf, useAddDesign, useDesigns, useTrashedSchools } from '../api/queries.js';
import { useListWish } from '../app/use-list-wish.js';
import { TakeSimpler } from '../features/designs/TakeSimpler.js';
import { useBringDrawing } from '../features/designs/use-bring-drawing.js';
import { span } from '../text/time.js';
import { DesignPicture } from '../ui/DesignPicture.js';
import { DRAWINGS, FileButton, PICTURES } from '../ui/FileButton.js';
import { Pages, SearchBox } from '../ui/ListTools.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { TrashList } from '../ui/Trash.js';
import { useTitle } from '../ui/use-title.js';

const FIRST_COLOUR = '#e9eef0';
/** Only who begins from a picture needs them. */
const CutterPhoto = lazy(async () => ({ default: (await import('../features/designs/CutterPhoto.js')).CutterPhoto }));
const TracePicture = lazy(async () => ({ default: (await import('../features/designs/TracePicture.js')).TracePicture }));

export function DesignsPage() {
  useTitle(msg`Designs`);
  const list = useListWish();
  const { wish } = list;
  const state = list.state === 'trash' ? 'trash' : 'there';
  const designs = useDesigns(state, wish);
  const schools = useTrashedSchools(state === 'trash').data ?? [];
  const add = useAddDesign();
  const [picture, setPicture] = useState<File | null>(null);
  const [cutter, setCutter] = useState<File | null>(null);
  const navigate = useNavigate();
  const open = (id: string) => void navigate(`/designs/${id}`);
  const take = (name: string, svg: string) => add.mutate({ name, svg }, { onSuccess: ({ id, waits }) => !waits && open(id) });
  const { bring, problem, waits, takeSimpler } = useBringDrawing(open);
  return (
    <>
      <div className="flex flex-wrap items-center gap-6 pt-6 pb-4">
        <h1 className="text-5xl font-semibold">{msg`Designs`}</h1>
        <SearchBox label={msg`look for a design`} first={wish.q} onSearch={list.search} />
        <Link
          to={list.addressOf(state === 'trash' ? '' : 'trash')}
          replace
          className={`btn btn-lg ${state === 'trash' ? 'btn-active' : 'btn-ghost'}`}
          aria-current={state === 'trash' ? 'page' : undefined}
        >
          {msg`Trash`}
        </Link>
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <FileButton
          label={msg`Bring a drawing`}
          accept={DRAWINGS}
          className="btn-primary btn-lg text-xl px-8"
          onFile={(file) => void bring(file)}
        />
        <FileButton label={msg`Trace a picture`} accept={PICTURES} className="btn-lg text-xl" onFile={setPicture} />
        <FileButton label={msg`Photograph of a cutter`} accept={PICTURES} className="btn-lg text-xl" onFile={setCutter} />
        <Suspense fallback={null}>
          {picture && (
            <TracePicture
              file={picture}
              onClose={() => setPicture(null)}
              onTake={(name, svg) => {
                setPicture(null);
                take(name, svg);
              }}
            />
          )}
          {cutter && (
            <CutterPhoto
              file={cutter}
              colour={FIRST_COLOUR}
              onClose={() => setCutter(null)}
              onTake={(name, svg) => {
                setCutter(null);
                take(name, svg);
              }}
            />
          )}
        </Suspense>
        <span className="text-lg">{msg`or start from a shape:`}</span>
        {startingShapes.map((s) => (
          <button
            key={s.id}
            type="button"
            className="btn h-14 px-3"
            disabled={add.isPending}
            onClick={() => take(s.label, startingDrawing(s, FIRST_COLOUR))}
          >
            <svg viewBox={`-2 -2 ${s.widthMm + 4} ${s.heightMm + 4}`} className="w-7 h-7" aria-hidden="true">
              <path d={s.cookie} fill="var(--biscuit)" stroke="var(--biscuit-rim)" strokeWidth="3" />
            </svg>
            {s.label}
          </button>
        ))}
      </div>
      <div className="mt-4">
        <NotKeptHere place="/designs" />
      </div>
      {waits && <Notice title={waits} />}
      {(problem || add.isError) && (
        <div className="mt-4">
          <Notice title={msg`The drawing was not taken`} tone="closing">
            {problem ?? add.error?.message}
            <TakeSimpler onTake={takeSimpler} />
          </Notice>
        </div>
      )}
      {designs.isPending && <Loading what={msg`getting the designs`} />}
      {designs.isError && (
        <Notice title={msg`The designs could not be read`} tone="closing">
          {designs.error.message}
        </Notice>
      )}
      {designs.data?.total === 0 && (
        <div className="mt-8">
          {state === 'trash' && schools.length > 0 ? null : state === 'trash' && wish.q === '' ? (
            <Notice title={msg`The trash is empty`}>{msg`What is deleted lies here for 30 days.`}</Notice>
          ) : wish.q === '' ? (
            <Notice
              title={msg`There is no design yet`}
            >{msg`Bring an SVG drawing of a cookie, or start from one of the shapes above.`}</Notice>
          ) : (
            <Notice title={msg`No design with "${wish.q}" in its name`} />
          )}
        </div>
      )}
      <div className="mt-6">
        {state === 'trash' && designs.data && designs.data.total > 0 && <TrashList kind="designs" items={designs.data.items} />}
        {state === 'trash' && schools.length > 0 && (
          <section aria-label={msg`Schools`} className="mt-8">
            <h2 className="text-2xl font-semibold mb-2">{msg`Schools of your own`}</h2>
            <TrashList kind="schools" items={schools.map((s) => ({ id: s.id, name: s.label }))} />
          </section>
        )}
      </div>
      <ul className="mt-8 grid sm:grid-cols-2 md:grid-cols-3 xl:grid-cols-5 gap-x-8 gap-y-10">
        {(state === 'there' ? (designs.data?.items ?? []) : []).map((d) => (
          <li key={d.id}>
            <Link to={`/designs/${d.id}`} className="grid gap-2 group">
              <DesignPicture of={refOf(d)} className="w-full h-44" label={d.name} />
              <span className="text-xl font-semibold group-hover:underline">{d.name}</span>
              <span className="text-base opacity-85">
                {d.problem ??
                  msgNodes`${d.transfer ? msg`transfer, ` : ''}${d.rounds} ${plural(d.rounds, 'round', 'rounds')}, ${span(d.handsOnS)} of
                    hands`}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {designs.data && <Pages page={designs.data.page} pages={designs.data.pages} onPage={list.toPage} />}
    </>
  );
}
