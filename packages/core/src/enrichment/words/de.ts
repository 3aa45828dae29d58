import type { TextWords } from './model.js';

export const de: TextWords = {
  negations: 'nicht|kein|keine|keinen|keiner|keinem|ohne|nie|exkl|exklusive|zzgl|weder|noch',
  lacking: 'frei|los|nicht enthalten|nicht inbegriffen',
  limits:
    'bis|bis zu|max|maximal|hochstens|min|mind|mindestens|ab|uber|unter|weniger als|mehr als|zwischen|von|oder|zulassig',
  uses: 'fur|passend fur|passend zu|geeignet fur|passt zu|passt fur|kompatibel mit|reinigt|entfernt|pflegt|schutzt|ersetzt|ersatz fur|zum|zur|wie|als|statt',
  loads:
    'fasst|traglast|tragkraft|tragt|belastbar|belastung|bruchlast|halt bis|tragfahigkeit|zuladung|belastbarkeit|hebt|fullgewicht|korpergewicht',
  others:
    'versandgewicht|packmass|verpackt|gefaltet|zusammengeklappt|ersetzt|entspricht|brutto|bruttogewicht|reichweite|druck|gewinde|florhohe|kabellange|sitzhohe|absatzhohe|bildschirm|display|batterien|batterie|akku|pro|je|je boden|wassersaule|armellange|schrittlange|anhanger|genau|brennt|brenndauer|mindestbestellmenge|kompatibel|karton|nahtzugabe',
  parts:
    'griff|griffe|ruckseite|rucken|fuss|fusse|bein|beine|stiel|rand|kante|kanten|futter|streifen|punkte|muster|knopfe|knopf|reissverschluss|riemen|trager|sohle|sohlen|schnursenkel|anhanger|klinge|spitze|feder|kappe|stopfen|kabel|becher|linse|naht|logo|boden|schraube|schrauben|haken|scharnier|etikett|schachtel|dose|beutel|tasche|verpackung|fullung|kragen|zifferblatt|schirm|rahmen|deckel|kopf|fass|schalter|rohr|rillen|henkel',
  looksBefore: 'imitierte|imitiertes|kunst|sieht aus wie|wie aus|wie|falsches|statt|anmutung von|vegan|veganes',
  looksAfter:
    'optik|look|imitat|imitation|effekt|dekor|farben|farbig|beschichtet|duft|aroma|geschmack|ol|extrakt|pulver|butter|design|nachbildung|furnier|ton|stil',
  misleading:
    'duftkerze|kerze|kerzen|seife|shampoo|spulung|creme|handcreme|balsam|lotion|parfum|tee|kaffee|schokolade|wein|essig|saft|marmelade|honig|pfeffer|gewurz|samen|saatgut|blumenzwiebeln|zwiebeln|pflanze|strauch|salz|zucker|reis|bohnen|sosse|sirup|likor|bier|limonade|kekse|bonbons|politur|reiniger|kleber|leim|wachs|waschmittel|raumduft|badesalz|ol|lippenstift|zahnpasta|leckerli|entferner|putztuch|pflege|lederpflege',
  phrases:
    'gruner tee|schwarzer tee|weisser tee|schwarzer pfeffer|weisser pfeffer|weisse schokolade|dunkle schokolade|brauner zucker|rote bete|rote beete|grune bohnen|roter reis|schwarzer wald|goldener schnitt|silberner see|rotes kreuz|grune woche|weisse ware|roter faden|blaues wunder|schwarzes brett|rote riesen|roter riese|weisser riese',
  lights: 'warm|kalt|neutral|tageslicht|hell|sanft',
  codes: 'modell|typ|art|artikel|artikelnummer|nr|ref|sku|serie|bestellnummer|teil|code|version|din',
  packBefore: 'packung mit|pack mit|set mit|karton mit|beutel mit|packung a|schachtel mit|paket mit|satz mit',
  packAfter:
    'stuck|stk|stck|st|teile|teilig|teiliges|teiliger|er pack|er set|er packung|er box|er karton|er bund|er|tlg',
  ofWhat: 'des|der|vom|von der|vom|je',
  plain:
    'die|der|das|eine|ein|seine|ihre|gesamt|gesamte|ca|etwa|rund|ist|mit|in|von|eigene|netto|leer|und|hat|aussen|ganze|nur|circa|bei',
  high: 'hoch|hohe|in der hohe',
  wide: 'breit|breite|in der breite',
  long: 'lang|lange|in der lange',
  deep: 'tief|tiefe',
  across: 'durchmesser|im durchmesser|o',
  weighs: 'wiegt|wiegen|schwer',
  holds: 'fasst|fassungsvermogen|inhalt|fassend',
  madeOf: 'aus|in|reine|reiner|massiv|massive|massiver|echt|echtes|echte|farbe|material|100|stoff',
  endings: 'e|er|es|en|em|n|s',
  two: 'paar|doppelpack|2er',
  dozen: 'dutzend',
  besides: 'batterie|batterien|akku|akkus|personen|jahre|jahren|monat|monate|seiten|tassen',
  mainParts: 'bezug|korpus|platte|sitz|schirm|rahmen|kopf|klinge|zifferblatt|streifen',
  making: 'gefertigt|gewebt|gestrickt|genaht|geschmiedet|gegossen|besteht|ist|sind|hergestellt|ganz',
  subject: 'aus|ist',
  comesWith: 'mit',
  holders: '',
  notSizes: 'typ|modell|klasse|serie|kategorie|feder|stufe',
  short: 'ab|am|da|du|er|es|im|in|ja|ob|um|zu|so',
  no: 'nein',
  optional: 'wahlweise|gegen|extra|optional',
  notOnly: 'nicht nur',
  joints: 'und',
  lamps: 'leuchte|leuchten|leuchtmittel|strahler|lampe|lampen|spots',
  lampEnds: 'lampe|lampen|strahler|leuchte',
  lightNames: 'farb|licht',
  fastened: 'schraube|schrauben|nagel|dubel',
  shortened: 'gr|nr|art|inkl|exkl|bzw|evtl|mind|zzgl',
};
