import './keys.css';

interface Group {
  readonly title: string;
  readonly keys: readonly (readonly [keys: string, what: string])[];
}

/** Every key that does something, by where it does so. A test looks whether they are all listed. */
export const groups: readonly Group[] = [
  {
    title: 'Everywhere on the bench',
    keys: [
      ['Ctrl Z', 'Undo'],
      ['Ctrl Shift Z, Ctrl Y', 'Redo'],
      ['Esc', 'Put a tool away, close the magnifier'],
      ['Tab, Shift Tab', 'To the next control or the one before'],
    ],
  },
  {
    title: 'On the picture',
    keys: [
      ['Space, held', 'Show the original for as long'],
      ['Arrow keys', 'Move the picture; with Shift farther'],
      ['+ and −', 'Zoom'],
      ['0', 'Show all'],
      ['Arrow left and right on the wipe', 'Move it'],
    ],
  },
  {
    title: 'Cut out',
    keys: [
      ['Alt ↓', 'To the next unsure area'],
      ['Enter', 'Open or solid, on an area'],
      ['Arrow keys on a chart', 'Move the level; with Shift farther'],
    ],
  },
  {
    title: 'Tidy',
    keys: [
      ['Shift with a brush', 'A straight line from the last place'],
      ['Arrow keys with a tool', 'Move the brush, or the place of the next corner; with Shift farther'],
      ['Space with a tool', 'Brush down or up; a corner of the outline'],
      ['Enter', 'Close an outline'],
      ['Backspace', 'Take its last corner back'],
    ],
  },
  {
    title: 'Marks',
    keys: [['Ctrl V', 'Take in a picture from the clipboard']],
  },
];

/** The page of keys. */
export function KeysScreen() {
  return (
    <div className="keys">
      <h1>Keys</h1>
      <p className="soft">
        Everything can be reached without a mouse. These are the keys that do more than Tab and Enter.
      </p>
      <div className="keys-groups">
        {groups.map((group) => (
          <section key={group.title} aria-label={group.title}>
            <h2>{group.title}</h2>
            <dl>
              {group.keys.map(([keys, what]) => (
                <div key={keys}>
                  <dt>{keys}</dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </div>
  );
}
