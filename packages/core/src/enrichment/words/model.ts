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
}
