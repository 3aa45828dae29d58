import type { TextWords } from './model.js';

export const en: TextWords = {
  negations: 'no|not|without|non|never|excluding|minus|isn t|is not|are not|free of|free from|contains no|w/o',
  lacking: 'free|less|not included',
  limits:
    'up to|max|maximum|at most|less than|more than|over|under|below|above|min|minimum|at least|from|to|down to|starting at|as of|between|or|until|limit|rated to|within',
  uses: 'for|fits|fit|suits|suitable for|compatible with|designed for|made for|works with|works on|use on|use with|used with|cleans|removes|protects|replaces|replacement for|goes with|pairs with|matches|like|as',
  loads:
    'holds|holds up|carries|carry|load|loads|loaded|bears|supports|capacity|breaking|lifts|weight limit|tested|payload|max load|carrying|user weight|strength',
  others:
    'shipping|packed|packing|pack size|packaging|parcel|folded|replaces|equivalent|equals|gross|boxed|carton|range|wave|nozzle|pile|seam|lead length|strap|heel|seat|sleeve|inseam|pendant|screen|display|batteries|battery|per|each shelf|model is|model wears|model wearing|reads|accurate|water column|print|writing|track|drop|burns|minimum order|compatible',
  parts:
    'handle|handles|back|base|foot|feet|leg|legs|shaft|rim|trim|edge|edges|lining|lined|stripes|dots|pattern|print|buttons|button|zip|zipper|strap|straps|sole|soles|laces|pendant|blade|tip|nib|cap|stopper|cord|cable|beaker|lens|lenses|string|seam|seams|logo|stitching|bottom|screw|screws|hooks|hook|hinge|hinges|label|box|tin|case|bag|pouch|packaging|filling|piping|collar|cuffs|pocket|pockets|accents|details|lettering|dial|face|shade|frame|jar|lid|head|barrels|barrel|switch|tube|cup',
  looksBefore:
    'faux|fake|imitation|artificial|mock|vegan|looks like|look like|resembles|reminiscent of|instead of|like|as if of|synthetic',
  looksAfter:
    'gold|look|effect|style|finish|imitation|print|coloured|colored|plated|optic|design|colour|tone|tones|toned|veneer|scent|scented|fragrance|flavour|flavoured|flavor|oil|extract|butter|milk|powder|inspired|plating|lookalike',
  misleading:
    'candle|candles|soap|shampoo|conditioner|cream|balm|lotion|perfume|parfum|cologne|tea|teas|coffee|chocolate|wine|vinegar|juice|jam|honey|pepper|spice|spices|seed|seeds|bulbs|plant|plants|shrub|sapling|salt|sugar|rice|beans|sauce|syrup|liqueur|beer|cider|lemonade|biscuits|crisps|sweets|fudge|polish|cleaner|glue|adhesive|wax|detergent|diffuser|incense|bath salts|oil|lipstick|mascara|toothpaste|deodorant|treats|kibble|litter|descaler|stain|remover|varnish remover',
  phrases:
    'crystal clear|steel wool|glass wool|glass cleaner|glass ceramic|red wine|white wine|rose wine|green tea|black tea|white tea|black pepper|white pepper|brown sugar|white chocolate|dark chocolate|milk chocolate|red cabbage|red onion|spring onion|green beans|blue cheese|brown bread|brown rice|orange juice|black friday|wine glass|wine glasses|magnifying glass|silver birch|silver fir|white oak|red oak|blue spruce|red cedar|olive wood|cherry wood|rose wood|golden delicious|copper beech|golden gate|gold star|red cross|blue tooth|green house|black forest|white board|black board|glass fibre|golden retriever|white musk|silver lake|red deer|blue tit|white label|black label|green energy|cherry red lips|rose garden|olive oil|cotton candy|cotton buds|wool wash|leather care|paper clips|paper clip|iron on|gold standard|silver surfer|oak barrels|oak barrel|bamboo fibre powder|cork screw|rubber band|acrylic glass|silver plate|white noise|pink noise|red light|blue light|green light',
  lights: 'warm|cool|cold|neutral|daylight|soft|bright',
  codes: 'model|type|art|article|item|ref|reference|sku|no|series|serial|part|code|version|mk|generation|gen|style',
  packBefore:
    'pack of|set of|box of|tube of|case of|bag of|bundle of|carton of|lot of|packs of|sets of|tin of|tray of|pkg of|multipack of',
  packAfter: 'pack|packs|pk|pieces|piece|pcs|pc|count|ct|pce|units|piece set|pc set|pieces set|set',
  ofWhat: 'of the|of its|of a|of each',
  plain:
    'the|a|an|its|total|overall|product|approx|approximately|about|circa|ca|is|with|in|of|own|net|empty|and|has|external|outer|size|whole|only|at',
  high: 'high|tall|in height',
  wide: 'wide|in width|broad',
  long: 'long|in length',
  deep: 'deep|in depth',
  across: 'in diameter|across|diameter|dia',
  weighs: 'weighs|weighing|weigh',
  holds: 'holds|holding|takes|volume of',
  madeOf:
    'made of|made from|of|from|in|crafted from|woven from|pure|solid|genuine|real|colour|color|material|fabric|100|finished in',
  endings: 's|es|en|ed',
  two: 'pair|twin pack|twinpack|duo pack|duopack|double pack',
  dozen: 'dozen',
  besides:
    'battery|batteries|person|persons|people|year|years|month|months|hour|hours|socket|sockets|port|ports|slot|slots|compartment|compartments|page|pages|cup|cups|slice|slices|drawer|drawers|shelves',
  mainParts: 'shade|frame|head|blade|face|dial|cover|body|outer|seat|top|stripes',
  making: 'made|crafted|woven|knitted|sewn|cut|forged|cast|built|turned|is|are|it|entirely|fully|mostly|all',
  subject: 'of|made|is',
  comesWith: 'with',
  holders:
    'dish|holder|stand|jar|tray|box|pot|pots|cup|mug|mill|grinder|tin|caddy|dispenser|table|towel|rack|can|shaker|cooler|mould|lamp|lantern|glass|glasses|bag|bags|bowl|spoon|machine|maker|press|filter|set|dipper|bottle|basket|stool|cabinet|shelf|knife|cloth|brush|opener|decanter|jug|pump|burner|warmer|light|lights|feeder|labels|case|hook|cutter|roll|stamp|bench|print|cooker|steamer|tumbler|stopper|carafe',
  notSizes: 'nib|nibs|type|model|class|grade|series|category|plan|level|hose|gauge|vitamin',
  short: 'an|as|at|be|by|do|go|he|if|in|is|it|me|my|no|of|on|or|so|to|up|us|we',
  no: 'no',
  optional: 'optional|optionally|separately|apart|extra',
  notOnly: 'not only',
  joints: 'and',
  lamps: 'led|bulb|bulbs|lamp|lamps|light|lights|lumen|lm|kelvin|spot|spots',
  lampEnds: '',
  lightNames: 'colour|color|light',
  fastened: 'screw|screws|nail|nails|bolt|bolts',
  shortened: 'ca|max|min|no|approx|incl|excl|ref|dia|temp|vol|resp|c',
};
