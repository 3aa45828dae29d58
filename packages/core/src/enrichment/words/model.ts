/** What words around a value make of it, in one language; folded, parted by bars. */
export interface TextWords {
  /** Deny what follows them. */
  negations: string;
  /** Deny what they follow: “lead-free”. */
  lacking: string;
  /** What follows is a limit, or somebody else’s figure. */
  limits: string;
  /** What follows is what the goods are used on or with. */
  uses: string;
  /** Verbs and nouns of what goods bear. */
  loads: string;
  /** Figures of something beside the goods: packed, folded, shipped, replaced. */
  others: string;
  /** Parts of goods: what is said of one is not said of the whole. */
  parts: string;
  /** What follows them, or stands before them, is only looked like. */
  looksBefore: string;
  looksAfter: string;
  /** Goods whose names are full of colours and materials they are not of: scents, foods, seeds, polishes. */
  misleading: string;
  /** Whole phrases in which a word is not what it says. */
  phrases: string;
  /** Light of lamps: a white that is no colour. */
  lights: string;
  /** Announce a number of a model or an article. */
  codes: string;
  /** Words of packs: before the number (“pack of”), after it (“pieces”). */
  packBefore: string;
  packAfter: string;
  /** “From” and “of” after a word that announces: the figure is of that thing. */
  ofWhat: string;
  /** What may stand before a word that announces. */
  plain: string;
  /** How what a shape is said to be announces it: “20 cm high”. */
  high: string;
  wide: string;
  long: string;
  deep: string;
  across: string;
  weighs: string;
  holds: string;
  /** Made of, in colour. */
  madeOf: string;
  /** Endings of words that are declined. */
  endings: string;
  /** Two pieces. */
  two: string;
  /** Twelve of them. */
  dozen: string;
  /** Things that are counted and are no pieces of a pack. */
  besides: string;
  /** Parts that are most of the goods: a lamp’s shade, a mirror’s frame. */
  mainParts: string;
  /** Stand before “of” and are no things: “made of”. */
  making: string;
  /** What stands before them is a thing, and not what the goods are of: “straw of”. */
  subject: string;
  /** What follows comes with the goods. */
  comesWith: string;
  /** What misleading goods are put in, hung on and made with is no such goods. */
  holders: string;
  /** A letter behind them is no size. */
  notSizes: string;
  /** Words of two letters that are no values. */
  short: string;
  /** Behind a colon they deny. */
  no: string;
  /** What is said so is not there yet. */
  optional: string;
  /** Deny nothing. */
  notOnly: string;
  /** Stand between two values that are both meant. */
  joints: string;
  /** Goods that give light. */
  lamps: string;
  /** The same at the end of a longer word. */
  lampEnds: string;
  /** How names of what light is like begin. */
  lightNames: string;
  /** Goods that are so thick and so long, and have no sizes. */
  fastened: string;
  /** Words that a stop behind them shortens. */
  shortened: string;
}
