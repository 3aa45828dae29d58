/** What columns of goods are called in English, without accents; parted by bars. */
import type { Words } from './model.js';

export const en: Words = {
  key: 'our no|our number|our code|our ref|sku|article|article number|article no|article code|art no|art num|art nr|item number|item no|item code|item|code|product code|product id|product number|product no|part no|stock code|reference|ref|catalogue number|cat no|order number|order code|style number|id|number|no',
  family:
    'family|series|range|collection|model|group id|parent id|parent sku|parent|productgroupid|style|line|product line|product family|model name|model number|master|master sku|variant of',
  options: 'options|axes|variant options',
  title:
    'title|name|product name|item name|product title|product|short description|article name|item description|article description|product description short|designation|heading',
  description:
    'description|long description|long text|text|product description|full description|details|body|marketing text|body html|copy|web text',
  brand: 'brand|make|maker|manufacturer|brand name|vendor|producer|label|trademark',
  category:
    'category|our category|type|group|product group|shelf|product type|product category|department|section|category path|commodity group|class|item group|categories',
  gtin: 'gtin|ean|barcode|bar code|upc|gtin8|gtin12|gtin13|gtin14|ean13|ean 13|ean code|ean number|gtin 13|gtin ean|ean gtin|ean upc|upc code|ean no|jan',
  mpn: 'mpn|manufacturer part number|part number|manufacturer number|manufacturer no|mfr part no|mfg part number|manufacturer code|maker s number|manufacturer sku|manufacturer item number|mfr no|manufacturer reference|oem number',
  state: 'state|status|availability|lifecycle|active|item status|product status|discontinued|sales status',
  page: 'page|url|link|product url|product link|web page|deeplink|web link|product page|website|web',
  pictures:
    'picture|image|pictures|images|photo|photos|image url|main image|image link|picture url|img|image file|media|photo url|main picture|image name',
  morePictures:
    'more pictures|more images|additional image|additional images|further images|extra images|gallery|additional image link|alternative images|other images',
  colour: 'colour|color|colour name|color name|shade|main colour|colourway',
  size: 'size|sizes|clothing size|shoe size|size eu|eu size|dress size',
  sizes: 'dimensions|measurements|dimension|size l x w x h|l x w x h|w x h x d|product dimensions|dims|measures',
  material: 'material|materials|fabric|composition|made of|main material|material composition',
  pattern: 'pattern|print|motif|decor',
  width: 'width|w|product width',
  height: 'height|h|product height',
  depth: 'depth|d|product depth',
  length: 'length|l|product length',
  diameter: 'diameter|dia|diam',
  weight: 'weight|net weight|wt|product weight|item weight|mass',
  volume: 'volume|capacity|content|contents|fill volume|net content',
  power: 'power|wattage|max power|rated power|power consumption|watt|watts',
  voltage: 'voltage|volt|volts|rated voltage|input voltage',
  energyClass: 'energy class|energy efficiency class|energy rating|energy label',
  condition: 'condition|item condition|quality grade',
  packSize:
    'pack size|pieces|pieces in pack|pack quantity|units per pack|number of pieces|pack|pcs|count|pieces per pack|set size|items in set',
  origin: 'country of origin|origin|made in|country|country of manufacture|origin country|coo',
  customsCode:
    'customs tariff number|hs code|tariff code|commodity code|customs code|tariff number|cn code|taric|intrastat code|hs|harmonised code|intrastat',
  warranty: 'warranty|guarantee|warranty period|warranty months|warranty years',
  care: 'care|care instructions|washing instructions|wash care|care label',
  audience: 'gender|target group|age group|audience|for whom|sex|target',
  purchasePrice:
    'cost|purchase price|net price|trade price|net|cost price|wholesale price|dealer price|buying price|wholesale|unit cost|landed cost|price net|list price net|your price|customer price|dealer net|ws price|trade',
  recommendedPrice:
    'rrp|recommended price|retail price|msrp|srp|recommended retail price|suggested retail price|rrp inc vat|list price|consumer price|retail|suggested price',
  price:
    'price|selling price|sales price|unit price|gross price|shop price|sell price|web price|regular price|our price',
  salePrice: 'sale price|sale|offer price|special price|promo price|discounted price|reduced price|action price',
  saleFrom: 'sale starts|sale from|offer from|sale start|promo start',
  saleTo: 'sale ends|sale to|offer until|sale end|promo end|sale until',
  stock:
    'stock|quantity|on hand|on shelf|qty|in stock|stock level|inventory|available quantity|stock qty|qty available|available|stock quantity|available stock|units in stock|soh|stock on hand|quantity on hand|qoh|availability|free stock',
  boughtFrom: 'bought from|supplier|supplier name|sourced from',
  theirNumber:
    'their number|supplier number|supplier article number|supplier sku|supplier code|supplier item number|vendor code|supplier reference|supplier ref|supplier art no',
  nothing:
    'note|notes|remark|remarks|comment|comments|minimum order|moq|min order qty|minimum order quantity|discount|vat|vat rate|tax|tax rate|delivery time|lead time|updated|last updated|created|position|pos|row|line|bin|location|shelf location|valid from|valid to|reorder at|reorder point|order multiple|case pack|carton quantity|units per carton|pallet quantity|updated by|new|bestseller|season|ranking|rating|unit|uom|currency|price per|price unit|base price|unit price per|stock class|catalogue page|hazard|adr|un number|certificate|date|changed|internal note|buyer|sort order',
};
