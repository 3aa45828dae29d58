import type { TextWords } from './model.js';

export const sv: TextWords = {
  negations: 'inte|ej|utan|ingen|inget|inga|icke|fri fran|exkl|aldrig|varken',
  lacking: 'fri|fritt|fria|los|ingar ej|medfoljer ej',
  limits:
    'upp till|max|maximalt|hogst|min|minst|fran|over|under|mindre an|mer an|till|mellan|eller|ned till|ner till|hogsta',
  uses: 'for|passar|passar till|lamplig for|avsedd for|kompatibel med|rengor|tar bort|skyddar|ersatter|ersattning for|till|som|liknar|i stallet for',
  loads: 'rymmer|bar|barformaga|brottlast|maxlast|last|belastning|klarar|lyfter|taligt|barkraft|maxbelastning',
  others:
    'fraktvikt|packmatt|hopfalld|hopvikt|ersatter|motsvarar|brutto|bruttovikt|rackvidd|tryck|ganga|lugghojd|sladdlangd|kabellangd|sitthojd|skarm|display|batterier|batteri|per|vattenpelare|armlangd|hangets|nar|brinner|minsta order|kartong|pa nar|somsman',
  parts:
    'handtag|baksida|fot|fotter|ben|skaft|kant|kanter|foder|rander|prickar|monster|knappar|knapp|dragkedja|rem|remmar|sula|sulor|snoren|hange|blad|spets|lock|propp|sladd|bagare|bagaren|lins|som|logga|botten|skruv|skruvar|krok|gangjarn|etikett|ask|burk|pase|vaska|forpackning|fyllning|krage|urtavla|skarm|ram|huvud|fat|strombrytare|ror|spar|ficka|glasburk|platlock',
  looksBefore: 'konst|imiterad|imiterat|ser ut som|liknar|som|fejkat|vegansk|i stallet for|falsk',
  looksAfter:
    'look|imitation|effekt|optik|fargad|fargat|fargade|belagd|doft|smak|olja|extrakt|pulver|smor|design|faner|ton|stil|kansla',
  misleading:
    'doftljus|ljus|tval|schampo|balsam|kram|handkram|lotion|parfym|te|kaffe|choklad|vin|vinager|saft|sylt|honung|peppar|krydda|kryddor|fro|fron|lokar|vaxt|buske|salt|socker|ris|bonor|sas|sirap|likor|ol|lemonad|kex|godis|puts|fonsterputs|polish|rengoring|lim|vax|tvattmedel|badsalt|olja|lappstift|tandkram|godbitar|borttagning|laderbalsam',
  phrases:
    'gront te|svart te|vitt te|vit choklad|mork choklad|vita bonor|grona bonor|roda korset|vit magi|vitt vin|rott vin|roda jattar|svart hal|grona vagen|blaljus|vitt brus',
  lights: 'varm|kall|neutral|dagsljus|mjuk',
  codes: 'modell|typ|art|artikel|artikelnummer|artnr|nr|ref|sku|serie|bestallningsnummer|kod|version',
  packBefore: 'forpackning med|pack om|paket med|set om|set med|lada med|kartong med|sats om|pase med',
  packAfter: 'pack|st|stycken|styck|delar|bitar|p|dels|pask',
  ofWhat: 'pa|av|for',
  plain:
    'den|det|en|ett|dess|total|totalt|ca|cirka|ungefar|ar|med|i|av|egen|netto|tom|och|har|yttre|hela|bara|vid|lange|pa',
  high: 'hog|hogt|hoga|hojd|i hojd',
  wide: 'bred|brett|breda|bredd|i bredd',
  long: 'lang|langt|langa|langd|i langd',
  deep: 'djup|djupt|djupa',
  across: 'diameter|i diameter|o',
  weighs: 'vager|vagande',
  holds: 'rymmer|volym|innehall|rymd',
  madeOf: 'av|i|ren|rent|massiv|massivt|akta|akt|farg|material|100|tyg',
  endings: 'a|t|tt|e|en|n|s|et',
  two: 'dubbelpack',
  dozen: 'dussin',
  besides: 'batteri|batterier|personer|ar|sidor|koppar',
  mainParts: 'kladsel|sits|skarm|ram|huvud|blad|urtavla|rander',
  making: 'tillverkad|tillverkat|gjord|gjort|vavd|vavt|stickad|ar|helt',
  subject: 'av',
  comesWith: 'med',
  holders: '',
  notSizes: 'typ|modell|klass|serie|kategori',
  short: 'av|de|du|ej|en|ha|om|vi|ar|et|pa',
  no: 'nej',
  optional: 'valfritt|valfri|extra',
  notOnly: 'inte bara|inte endast',
  joints: 'och',
  lamps: 'glodlampa|lampa|lampor|spotlight',
  lampEnds: 'lampa',
  lightNames: 'farg|ljus',
  fastened: 'skruv|skruvar|spik',
  shortened: 'stl|str|st|ungef',
};
