'use client';
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { useId, type HTMLAttributes, type ReactNode } from 'react';

interface SortableListProps {
  label: string;
  ids: readonly string[];
  onOrder: (ids: string[], moved: { id: string; to: number }) => void;
  className?: string;
  /** Draws one row; `handle` goes on what it is dragged by. */
  children: (id: string, handle: HTMLAttributes<HTMLElement>) => ReactNode;
}

/** Rows that are reordered by dragging, or by Space and the arrow keys. */
export function SortableList({ label, ids, onOrder, className, children }: SortableListProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const end = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const to = ids.indexOf(String(over.id));
    onOrder(arrayMove([...ids], ids.indexOf(String(active.id)), to), { id: String(active.id), to });
  };
  return (
    <DndContext
      id={useId()}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={end}
      accessibility={{ announcements: told(ids), screenReaderInstructions: HOW }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        <ol aria-label={label} className={className}>
          {ids.map((id) => (
            <SortableRow key={id} id={id}>
              {(handle) => children(id, handle)}
            </SortableRow>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

const HOW = { draggable: 'Space picks it up, arrow keys move it, Space lays it down, Escape leaves it where it was.' };

/** What is said to whoever does not see it move: places, not ids. */
function told(ids: readonly string[]): Announcements {
  const place = (id: string | number | undefined) =>
    id === undefined ? 'nowhere' : `place ${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  return {
    onDragStart: ({ active }) => `Picked up from ${place(active.id)}.`,
    onDragOver: ({ over }) => `At ${place(over?.id)}.`,
    onDragEnd: ({ over }) => `Laid down at ${place(over?.id)}.`,
    onDragCancel: ({ active }) => `Left at ${place(active.id)}.`,
  };
}

function SortableRow({ id, children }: { id: string; children: (handle: HTMLAttributes<HTMLElement>) => ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: CSS.Translate.toString(transform),
        transition,
        zIndex: isDragging ? 2 : undefined,
        position: 'relative',
      }}
      className={isDragging ? 'bg-raised' : ''}
    >
      {children({ ...attributes, ...listeners })}
    </li>
  );
}
