import { describe, expect, it } from 'vitest';
import {
  anchorsField,
  checkValues,
  choiceField,
  colourField,
  coloursField,
  flagField,
  initialValues,
  numberField,
  optionalNumberField,
  rectField,
} from './params';

const fields = {
  amount: numberField({ label: 'Amount', initial: 2, min: 0, max: 8, step: 0.1 }),
  level: optionalNumberField({ label: 'Level', min: 0, max: 96, step: 1 }),
  way: choiceField({
    label: 'Way',
    initial: 'a',
    choices: [
      { value: 'a', label: 'A' },
      { value: 'b', label: 'B' },
    ],
  }),
  isOn: flagField({ label: 'On', initial: true }),
  colour: colourField({ label: 'Colour', initial: '#000000' }),
  grounds: coloursField({ label: 'Grounds', most: 1 }),
  rect: rectField({ label: 'Region' }),
  areas: anchorsField({ label: 'Areas', most: 2 }),
};

describe('checkValues', () => {
  it('fills what is missing with initial values', () => {
    expect(checkValues(fields, {}, 'x')).toEqual(initialValues(fields));
  });
  it.each([
    ['amount', 9, 'a number from 0 to 8'],
    ['amount', Number.NaN, 'a number from 0 to 8'],
    ['amount', '3', 'a number from 0 to 8'],
    ['level', -1, 'null or a number'],
    ['way', 'c', 'one of a, b'],
    ['isOn', 1, 'true or false'],
    ['colour', 'red', 'a colour such as'],
    ['grounds', ['#000000', '#111111'], 'at most 1 colour such as'],
    ['rect', { x: 0, y: 0, width: 0, height: 4 }, 'at least 1 px'],
    ['areas', [{ x: 1, y: 2, decision: 'maybe' }], 'open | solid'],
  ])('refuses %s = %j, saying what was expected', (name, value, expected) => {
    expect(() => checkValues(fields, { [name]: value }, 'stage')).toThrow(expected as string);
    expect(() => checkValues(fields, { [name]: value }, 'stage')).toThrow(`"${name}"`);
  });
  it('keeps null where null means "find it yourself"', () => {
    expect(checkValues(fields, { level: null, rect: null }, 'x')).toMatchObject({ level: null, rect: null });
  });
  it('does not hand out the same list twice', () => {
    const one = initialValues(fields);
    one.areas.push({ x: 1, y: 1, decision: 'open' });
    expect(initialValues(fields).areas).toEqual([]);
  });
});
