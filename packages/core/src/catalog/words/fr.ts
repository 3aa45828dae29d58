/** What columns of goods are called in French, without accents; parted by bars. */
import type { Words } from './model.js';

export const fr: Words = {
  key: 'reference|ref|reference article|ref article|reference produit|code article|code produit|numero d article|no article|n article|num article|code|article|sku',
  family: 'serie|famille|collection|modele|gamme|ligne|famille de produits|ref parent|reference parent|article parent',
  options: 'options|variantes|declinaisons',
  title:
    'nom|titre|designation|libelle|nom du produit|nom produit|designation article|designation produit|intitule|libelle article|libelle produit|produit|description courte',
  description:
    'description|descriptif|description longue|description produit|texte|texte long|description detaillee|details|argumentaire',
  brand: 'marque|fabricant|producteur|nom de marque',
  category:
    'categorie|rayon|groupe de produits|type de produit|sous famille|groupe|univers|categories|type|type produit',
  gtin: 'code barres|code barre|code ean|gencod|gencode|gtin ean|code a barres|codebarre',
  mpn: 'reference fabricant|ref fabricant|code fabricant|numero fabricant|ref constructeur|reference constructeur|ref fab',
  state: 'statut|disponibilite|etat|actif|statut article|disponible',
  page: 'lien|page|lien produit|page produit|url|adresse web|lien web|fiche produit',
  pictures: 'image|images|photo|photos|visuel|url image|image principale|visuels|lien image|photo produit',
  morePictures: 'autres images|images supplementaires|galerie|autres photos|images additionnelles',
  colour: 'couleur|coloris|teinte|nom de couleur|couleur principale',
  size: 'taille|pointure|tailles',
  sizes: 'dimensions|mesures|l x l x h|dimension',
  material: 'matiere|matiere principale|composition|materiau|tissu|matieres|materiaux',
  pattern: 'motif|imprime|decor|dessin',
  width: 'largeur|larg',
  height: 'hauteur|haut',
  depth: 'profondeur|prof',
  length: 'longueur|long',
  diameter: 'diametre|diam',
  weight: 'poids|poids net|poids produit',
  volume: 'volume|contenance|capacite|contenu',
  power: 'puissance|puissance max|puissance nominale|watts',
  voltage: 'tension|voltage|tension nominale',
  energyClass: 'classe energetique|classe energie|etiquette energie',
  condition: 'etat du produit|etat de l article',
  packSize: 'nombre de pieces|pieces par lot|quantite par lot|nb de pieces|nombre par lot|pieces',
  origin: 'pays d origine|origine|pays de fabrication|fabrique en|pays',
  customsCode: 'code douanier|code douane|nomenclature douaniere|code hs|nomenclature|nc8|code sh|tarif douanier',
  warranty: 'garantie|duree de garantie',
  care: 'entretien|conseils d entretien|instructions de lavage|lavage',
  audience: 'genre|sexe|public|groupe d age|cible',
  purchasePrice:
    'prix d achat|prix achat|prix net|pa ht|prix d achat ht|prix de gros|prix revendeur|cout|prix net ht|tarif net|prix de revient|pa|votre prix|px achat|prix pro',
  recommendedPrice:
    'prix conseille|ppc|pvc|prix public|prix de vente conseille|pvp|prix public conseille|prix consommateur|pvc ttc|tarif public|prix catalogue|pv conseille',
  price: 'prix|prix de vente|prix unitaire|pv|prix brut|tarif|prix vente|pv ttc|pu|prix unit',
  salePrice: 'prix promo|prix promotionnel|prix solde|prix remise|prix reduit|prix barre',
  saleFrom: 'promo du|debut promo|debut promotion',
  saleTo: 'promo jusqu au|fin promo|fin promotion|promo au',
  stock:
    'stock|quantite|qte|en stock|stock disponible|quantite disponible|qte stock|dispo|disponible stock|disponibilite',
  boughtFrom: 'fournisseur|nom fournisseur',
  theirNumber: 'reference fournisseur|ref fournisseur|code fournisseur|ref fourn',
  nothing:
    'remarque|remarques|note|commentaire|commande minimum|quantite minimum|qte mini|remise|tva|taux tva|taux de tva|delai|delai de livraison|mis a jour|cree le|position|ligne|emplacement|valable du|valable au|seuil de reappro|colisage|carton|pcb|spcb|par combien|nouveaute|saison|unite|devise|unite de prix|page catalogue|matiere dangereuse|date|modifie le|groupe remise|conditionnement|unite de vente|classe abc|eco participation|eco part|ecotaxe',
};
