import {
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  arrayMove,
  rectSortingStrategy,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import type { CSSProperties, ReactNode } from 'react';

interface Props {
  readonly ids: readonly string[];
  readonly onOrder: (ids: string[]) => void;
  readonly children: ReactNode;
}

/** A press must move this far before it drags, so that controls inside can be pressed. */
const DRAG_PX = 5;

/** Things that a person puts in order: by dragging their handles, or with the space bar and arrow keys on them. */
export function Sortable({ ids, onOrder, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_PX } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const end = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onOrder(arrayMove([...ids], ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={end}>
      <SortableContext items={[...ids]} strategy={rectSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** What one such thing needs: a ref and style for itself, and its handle. */
export function useSortableItem(id: string, name: string) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const style: CSSProperties = {
    transform: transform ? `translate3d(${transform.x}px, ${transform.y}px, 0)` : undefined,
    transition,
    ...(isDragging ? { position: 'relative', zIndex: 5 } : {}),
  };
  const handle = (
    <button type="button" className="sort-handle" {...attributes} {...listeners} aria-label={`Move ${name}`}>
      <span aria-hidden="true">⋮⋮</span>
    </button>
  );
  return { ref: setNodeRef, style, handle };
}
