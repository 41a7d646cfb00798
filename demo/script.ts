// The script of the demo scenario. Times are seconds from the start of the film's opening.
export interface ScriptLine {
  character: 'Narrator' | 'Pilot' | 'Apprentice';
  at: number;
  text: string;
}

export const SCRIPT: readonly ScriptLine[] = [
  { character: 'Narrator', at: 3.2, text: 'On the last headland before the open sea stands the lamp at Sallow Point.' },
  { character: 'Pilot', at: 13.5, text: "Slack water. She'll lie quiet for an hour." },
  {
    character: 'Narrator',
    at: 21.0,
    text: 'Beside it, in a brick well, a float rises and falls. It has written down the tide, twice a day, for ninety years.',
  },
  { character: 'Pilot', at: 33.4, text: 'Mind the gauge. It reads a hand too high.' },
  { character: 'Apprentice', at: 38.8, text: 'And the lamp? Who trims it now?' },
  { character: 'Pilot', at: 43.6, text: 'Nobody. It trims itself, so they say.' },
  {
    character: 'Narrator',
    at: 51.5,
    text: 'Nobody had climbed the stair since the spring tides. The lamp kept time without them.',
  },
  { character: 'Apprentice', at: 62.4, text: 'Then who wrote down the tide last night?' },
  { character: 'Pilot', at: 67.6, text: 'Listen. That is the horn. Keep her head to the wind.' },
  { character: 'Narrator', at: 77.0, text: 'The sea goes on counting. And the lamp goes on answering.' },
];

export const CHARACTERS = ['Narrator', 'Pilot', 'Apprentice'] as const;
