import { useState } from 'react';
import { labelsIn, layoutOf, ordersOf, type ChannelOrder, type LayoutId } from '@/core/speakers';
import { Choice, NumberField } from '@/parts';

/** Numbers one after the other from a first one, in the order in which the device has its channels. */
export function InOrder({
  what,
  layout: id,
  most,
  onNumbers,
}: {
  what: 'Ports' | 'Lines';
  layout: LayoutId;
  most: number;
  onNumbers: (first: number, order: ChannelOrder) => void;
}) {
  const [first, setFirst] = useState(1);
  const [order, setOrder] = useState<ChannelOrder>('wav');
  const layout = layoutOf(id);
  const orders = ordersOf(layout);
  return (
    <span className="flex items-center gap-1">
      <button className="btn" onClick={() => onNumbers(first, order)}>
        {what} in order
      </button>
      <span className="small text-quiet">from</span>
      <NumberField
        label={`First of the ${what.toLowerCase()}`}
        value={first}
        min={1}
        max={most}
        step={1}
        digits={0}
        onChange={setFirst}
      />
      {orders.length > 1 && (
        <Choice
          label={`Order of the ${what.toLowerCase()}`}
          look="bare"
          value={order}
          options={orders.map((o) => ({ value: o.id, label: o.name, note: labelsIn(layout, o.id).join(' ') }))}
          onChange={setOrder}
        />
      )}
    </span>
  );
}
