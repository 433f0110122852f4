import { namesOf } from './naming';

const named = (...paths: string[]) => {
  const { release, tracks } = namesOf(paths, (path) => path);
  return [release, ...tracks.map(({ title }) => title)];
};

test.each<[string[], string[]]>([
  [
    ['./Slow Orbits/02 Aphelion.wav', './Slow Orbits/01 Perihelion.wav'],
    ['Slow Orbits', 'Perihelion', 'Aphelion'],
  ],
  [
    ['Ashgrove_-_Slow_Orbits_-_1_-_Perihelion.wav', 'Ashgrove_-_Slow_Orbits_-_2_-_Aphelion.wav'],
    ['Ashgrove - Slow Orbits', 'Perihelion', 'Aphelion'],
  ],
  [
    ['10. Ten.wav', '9. Nine.wav'],
    ['New release', 'Nine', 'Ten'],
  ],
  [
    ['One.wav', 'Two.wav'],
    ['New release', 'One', 'Two'],
  ],
  [['Undertow.wav'], ['Undertow', 'Undertow']],
  [['01 Undertow.wav'], ['Undertow', 'Undertow']],
  // A number that belongs to the title.
  [['7 Rings.wav'], ['7 Rings', '7 Rings']],
  [
    ['1999.wav', '2001.wav'],
    ['New release', '1999', '2001'],
  ],
  [
    ['3 Suns.wav', 'Comet.wav'],
    ['New release', '3 Suns', 'Comet'],
  ],
  [
    ['/a/b/x.wav', '/a/c/y.wav'],
    ['a', 'x', 'y'],
  ],
  // What they share ends in the middle of a word, or is nearly all there is.
  [
    ['Moonrise.wav', 'Moonset.wav'],
    ['New release', 'Moonrise', 'Moonset'],
  ],
  [
    ['Mix.wav', 'Mix.wav'],
    ['New release', 'Mix', 'Mix'],
  ],
  [['.wav'], ['Untitled', 'Untitled']],
])('%p', (paths, expected) => {
  expect(named(...paths)).toEqual(expected);
});

test('long names are cut to what a title may have', () => {
  expect(named(`${'x'.repeat(300)}.wav`).map(({ length }) => length)).toEqual([120, 120]);
});
