'use client';

import { QuantityControl, type QuantityControlProps } from '../kit/quantity-control';
import { useEditor, useLane } from '../track/context';
import { HandleRange } from './handle-range';

/** A control of a stage, with its pins; `control` names it within the stage, such as `bands.2.gainDb`. */
export function StageQuantity({
  stage,
  control,
  ...props
}: { stage: string; control: string } & Omit<QuantityControlProps, 'pins' | 'onCommit'>) {
  const editor = useEditor();
  const pins = useLane((state) => state.version.pins);
  const own = pins.filter((pin) => pin.stage === stage && pin.control === control);
  const others = pins.filter((pin) => !own.includes(pin));
  return (
    <>
      <QuantityControl
        {...props}
        onCommit={() => void editor.lane.flush()}
        pins={{
          values: own.map(({ value }) => value),
          onChange: (values) => editor.lane.setPins([...others, ...values.map((value) => ({ stage, control, value }))]),
        }}
      />
      <HandleRange {...{ stage, control }} quantity={props.quantity} />
    </>
  );
}
