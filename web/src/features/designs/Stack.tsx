import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { reasonOf } from '@kestfog/core/wording';
import { msg, word } from '@kestfog/core/words';
import { useVirtualizer } from '@tanstack/react-virtual';
import { GripVertical } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import type { StackRow } from './parts.js';

interface Props {
  readonly rows: readonly StackRow[];
  readonly selected: string | null;
  /** rows that are chosen, the selected one among them */
  readonly chosen: readonly string[];
  /** `also`: besides those that are chosen, or no longer */
  readonly onSelect: (id: string, also: boolean) => void;
  /** a row was dropped before another, or at the end */
  readonly onMove: (id: string, before: string | null) => void;
}

/** Longer lists hold only the rows that are seen, or nearly: three hundred that can be dragged are slow to draw. */
const ALL_ROWS = 60;
/** About how high a row is, CSS px, until it is measured. */
const ROW_PX = 65;

/** The parts in the order they are piped; dragged to change, and each says what it waited for. */
export const Stack = memo(function Stack({ rows, selected, chosen, onSelect, onMove }: Props) {
  const [several, setSeveral] = useState(false);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = useMemo(() => rows.map((r) => r.id), [rows]);
  const chosenIds = useMemo(() => new Set(chosen), [chosen]);
  const list = useRef<HTMLOListElement>(null);
  const isLong = rows.length > ALL_ROWS;
  const virtual = useVirtualizer({
    count: isLong ? rows.length : 0,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_PX,
    overscan: 10,
    getItemKey: (i) => ids[i] ?? i,
  });
  const near = virtual.getVirtualItems();
  const shown = isLong ? near.map((v) => v.index) : ids.map((_, i) => i);
  const before = near[0]?.start ?? 0;
  const after = isLong ? virtual.getTotalSize() - (near.at(-1)?.end ?? 0) : 0;
  const selectedAt = selected === null ? -1 : ids.indexOf(selected);
  // What is touched on the cookie comes into view in a long list.
  useEffect(() => {
    if (isLong && selectedAt >= 0) virtual.scrollToIndex(selectedAt);
  }, [isLong, selectedAt, virtual]);
  const named = (id: string | number) => rows.find((r) => r.id === id)?.name ?? msg`the part`;
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over.id))];
    onMove(String(active.id), to > from ? (ids[to + 1] ?? null) : String(over.id));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{
        screenReaderInstructions: {
          draggable: msg`Space takes the part up, the arrows move it among the others, Space lays it down there, Escape leaves it where it
            was.`,
        },
        announcements: {
          onDragStart: ({ active }) => msg`${named(active.id)} is taken up.`,
          onDragOver: ({ active, over }) =>
            over ? msg`${named(active.id)} would be number ${ids.indexOf(String(over.id)) + 1} of ${ids.length}.` : undefined,
          onDragEnd: ({ active, over }) =>
            over ? msg`${named(active.id)} is number ${ids.indexOf(String(over.id)) + 1} now.` : msg`${named(active.id)} stays.`,
          onDragCancel: ({ active }) => msg`${named(active.id)} stays where it was.`,
        },
      }}
    >
      <div className="grid gap-2">
        <label className="flex items-center gap-2 min-h-11 text-lg">
          <input type="checkbox" className="checkbox" checked={several} onChange={(e) => setSeveral(e.target.checked)} />
          {msg`choose several`}
        </label>
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol
            ref={list}
            aria-label={msg`Parts in the order they are piped`}
            className="border-y border-base-300 layer-of-its-own max-h-[30rem] overflow-y-auto"
          >
            {before > 0 && <li aria-hidden style={{ height: before }} />}
            {shown.map((i) => {
              const r = rows[i] as StackRow;
              return (
                <Row
                  key={r.id}
                  row={r}
                  at={i}
                  of={rows.length}
                  measured={isLong ? virtual.measureElement : null}
                  selected={selected === r.id || chosenIds.has(r.id)}
                  several={several}
                  onSelect={onSelect}
                />
              );
            })}
            {after > 0 && <li aria-hidden style={{ height: after }} />}
          </ol>
        </SortableContext>
      </div>
    </DndContext>
  );
});

function Row({
  row,
  at,
  of,
  measured,
  selected,
  several,
  onSelect,
}: {
  readonly row: StackRow;
  /** its place among so many, from 0 */
  readonly at: number;
  readonly of: number;
  /** hears how high it is, where only some rows are there */
  readonly measured: ((row: HTMLLIElement | null) => void) | null;
  readonly selected: boolean;
  readonly several: boolean;
  readonly onSelect: (id: string, also: boolean) => void;
}) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({
    id: row.id,
    attributes: { roleDescription: msg`part that can be moved` },
  });
  return (
    <li
      ref={(li) => {
        setNodeRef(li);
        measured?.(li);
      }}
      data-index={at}
      aria-posinset={at + 1}
      aria-setsize={of}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      className={`flex items-center gap-1 border-b border-base-300 last:border-b-0 ${selected ? 'bg-base-200' : ''} ${isDragging ? 'opacity-70 relative z-10' : ''}`}
    >
      <button
        type="button"
        className="btn btn-ghost btn-square cursor-grab touch-none"
        aria-label={msg`move ${row.name}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical aria-hidden size={18} />
      </button>
      <button
        type="button"
        className="grow text-left py-2 min-h-12 grid grid-cols-[2rem_2rem_1fr] gap-2 items-center"
        aria-pressed={selected}
        onClick={(e) => onSelect(row.id, several || e.shiftKey || e.ctrlKey || e.metaKey)}
      >
        <span className="clock opacity-75 text-right pr-1">{at + 1}</span>
        <span className="w-6 h-6 rounded-full border border-base-content/50" style={{ background: row.colour }} />
        <span className="leading-tight">
          <span className="text-lg">{row.name}</span>
          <span className="block text-sm opacity-80">
            {msgNodes`${word(row.technique)}, round ${row.round}${
              row.waits &&
              msg`; waits ${span(row.waits.seconds)}:
              ${reasonOf(row.waits.gap)}`
            }`}
          </span>
        </span>
      </button>
    </li>
  );
}
