/** What a screen is for, in the words of the trade. */
export interface ScreenHelp {
  readonly name: string
  readonly does: string
  readonly steps: readonly string[]
}

/** Each screen by its address. */
const SCREENS: readonly (readonly [RegExp, ScreenHelp])[] = [
  [
    /^\/jobs\/?$/,
    {
      name: 'Jobs',
      does: 'Everything that is made here, each as it will look after the burn, with its time.',
      steps: [
        'Drop a picture, a drawing, a mesh, a program or a job file anywhere on it, or paste one.',
        'Say the material, and how wide it is to be; then press what is to become of it.',
        'A job is opened by a press, copied or put away by the signs below it.',
      ],
    },
  ],
  [
    /\/compose$/,
    {
      name: 'Compose',
      does: 'The workpiece with its artwork, what is burned of it, and in which order.',
      steps: [
        'Left: the artwork, and what came of it. “This can be” makes a cut, a score, a fill, a picture or a relief of what is chosen.',
        'Middle: the workpiece after the burn. Drag what lies on it, or press a number on the stage and type another.',
        'Right: the settings of what is chosen, where they come from, and how well they are known.',
        'Below: the operations in the order in which they run, as long as they take. Drag a block to run it at another time.',
        'Coloured notes say what would go wrong, with a press that mends it.',
        'Where a piece wants to be held, Shift J makes a jig for it and goes to cut it; Shift R says that it turns in a rotary.',
      ],
    },
  ],
  [
    /\/picture(\/|$)/,
    {
      name: 'Picture',
      does: 'What is done to a picture before it is burned, step by step, down to every dot.',
      steps: [
        'Each card is a step, done from the top down; a step is switched off, moved or taken out at any time.',
        'Add a step: crop, levels, sharpen, clean the paper, keep the ink alone, clear a part.',
        'The loupe shows the dots as they will be burned; “burned” shows the piece.',
      ],
    },
  ],
  [
    /\/outline(\/|$)/,
    {
      name: 'Outline',
      does: 'What is traced, offset, combined and cleaned, as the lines that the head follows.',
      steps: [
        'Set the threshold: the outline follows the picture, and stays where the picture lies.',
        'Add a step to drop specks, join ends, take doubled lines out, simplify, or erase by a box.',
        'Parts that would fall out are marked: bridges hold them.',
      ],
    },
  ],
  [
    /\/run$/,
    {
      name: 'Run',
      does: 'At the machine: the list before the start, the start itself, and a look before the piece is lifted.',
      steps: [
        'Say who you are, at the top. Go through the list: what is routine is seen to by one press.',
        'Frame shows where it will burn, without the beam or with a weak one.',
        'Start homes the head and sets the focus first where that is missing. Stop is always there: Shift Esc.',
        'When it is over, look, and do not lift yet: what is not through runs again, from the same zero.',
      ],
    },
  ],
  [
    /\/measure$/,
    {
      name: 'Measure',
      does: 'What came out on a card of trials, and what the shop learns of it.',
      steps: [
        'Type what you read on each cell, drop a table, or read tones from a photo of the bed; slots, with the camera at the head.',
        'Keep the curve: from then on forecast and settings go by it.',
        'Mark the best cell with its star, and keep it as the recipe.',
      ],
    },
  ],
  [
    /^\/journal/,
    {
      name: 'Journal',
      does: 'Every run: what it burned, how long it took against the estimate, and what came of it.',
      steps: [
        'Press a run to rate it, write a note, or start it again.',
        'A program that was carried to its machine is written down here by hand.',
      ],
    },
  ],
  [
    /^\/library/,
    {
      name: 'Library',
      does: 'Artwork that is used again, with where it comes from and what its licence asks.',
      steps: ['Drop files on it, or keep artwork from a job.', 'Words find it again: several are typed one after the other.'],
    },
  ],
  [
    /^\/materials/,
    {
      name: 'Materials',
      does: 'What the shop knows of its materials: layers, doses, curves, and recipes with their proof.',
      steps: [
        'A new material begins with a card of trials, not with a guess.',
        'Recipes say whether they are proven, borrowed or doubtful, and by what.',
        'Changes can be brought back.',
      ],
    },
  ],
  [
    /^\/stock/,
    {
      name: 'Stock',
      does: 'Sheets, offcuts and blanks that are there, with their place on the shelf and what they cost.',
      steps: ['Begin a job on a piece, or find one by its code.', 'What a run used is taken off, and written down.'],
    },
  ],
  [
    /^\/machines/,
    {
      name: 'Machines',
      does: 'The machines, their lenses, sources, rotaries and cameras, as the planner reckons with them.',
      steps: [
        'Compare what is set here with what the machine says.',
        'Calibrate a camera with a board of dots.',
        'A scan head: burn the marks, let its camera look at them, and give the head what makes its field straight.',
      ],
    },
  ],
  [
    /^\/people/,
    {
      name: 'People',
      does: 'Who may work here, and at which machines.',
      steps: ['Where nobody is listed, everybody may do everything.'],
    },
  ],
]

export const helpOf = (path: string): ScreenHelp => SCREENS.find(([address]) => address.test(path))?.[1] ?? SCREENS[0][1]
