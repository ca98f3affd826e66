import type { Prop } from '@kelp/core';
import { memo } from 'react';
import { useAppDispatch } from '../app/store.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { propChosen } from '../state/view-slice.js';
import { Row } from './Row.js';

const changeProp = (id: string, label: string, change: (prop: Prop) => Prop, gesture?: string) =>
  edit(
    label,
    (document) => ({ ...document, props: document.props.map((prop) => (prop.id === id ? change(prop) : prop)) }),
    gesture,
  );

/** One prop of the manifest. */
export const PropRow = memo(function PropRow({
  prop,
  figure,
  chosen,
}: {
  prop: Prop;
  figure: string;
  chosen: boolean;
}) {
  const dispatch = useAppDispatch();
  const { id, name, visible, colour } = prop;
  return (
    <Row
      name={name}
      figure={figure}
      chosen={chosen}
      visible={visible}
      colour={colour}
      onColour={(next, done) => {
        dispatch(changeProp(id, `Colour of ${name}`, (now) => ({ ...now, colour: next }), `colour ${id}`));
        if (done) dispatch(gestureEnded());
      }}
      onChoose={() => dispatch(propChosen(id))}
      onShow={() =>
        dispatch(changeProp(id, visible ? `Hide ${name}` : `Show ${name}`, (now) => ({ ...now, visible: !visible })))
      }
    />
  );
});
