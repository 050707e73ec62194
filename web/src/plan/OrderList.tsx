import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { duration } from '@red-ember/core';
import type { VariantBody } from '@red-ember/contract';

function Row({ id, place, variant, changeMin }: { id: string; place: number; variant: VariantBody; changeMin: number }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`grid grid-cols-[1.6rem_2rem_minmax(0,1fr)_auto] items-center gap-2 border-b border-rule py-1 ${isDragging ? 'relative z-10 bg-shade' : ''}`}
    >
      <button
        type="button"
        className="cursor-grab p-1 text-soft hover:text-ink"
        aria-label={`Move run ${place}, ${variant.name}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={15} aria-hidden />
      </button>
      <span className="text-soft">{place}</span>
      <span className="truncate">{variant.name}</span>
      <span className="text-[0.87rem] text-soft">{changeMin > 0 ? `${duration(changeMin * 60)} to fit` : ''}</span>
    </li>
  );
}

/** The runs in their order; drag, or Space and the arrow keys on a handle. */
export function OrderList({
  order,
  changeMin,
  onChange,
}: {
  order: VariantBody[];
  changeMin: number[];
  onChange: (order: VariantBody[]) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = order.map((variant, k) => `${k}/${variant.id}`);
  const end = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onChange(arrayMove(order, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={end}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol className="max-h-[30rem] overflow-y-auto" tabIndex={0} aria-label="Order of runs">
          {order.map((variant, k) => (
            <Row key={ids[k]} id={ids[k]!} place={k + 1} variant={variant} changeMin={changeMin[k]!} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}
