/** What columns of goods are called in Spanish, without accents; parted by bars. */
import type { Words } from './model.js';

export const es: Words = {
  key: 'referencia|ref|codigo|cod|codigo de articulo|codigo articulo|cod articulo|numero de articulo|num articulo|codigo de producto|codigo producto|articulo|sku|clave|clave de producto',
  family: 'serie|familia|coleccion|modelo|gama|linea|familia de productos|referencia padre',
  options: 'opciones|variantes',
  title:
    'nombre|titulo|denominacion|nombre del producto|nombre producto|designacion|producto|nombre del articulo|descripcion corta|denominacion del articulo',
  description:
    'descripcion|descripcion larga|descripcion del producto|descripcion producto|texto|detalles|descripcion completa|texto largo',
  brand: 'marca|fabricante|productor|nombre de marca',
  category: 'categoria|grupo|tipo de producto|grupo de productos|seccion|departamento|tipo|subfamilia|categorias',
  gtin: 'codigo de barras|codigo barras|codigo ean|cod barras|ean codigo|cod ean',
  mpn: 'referencia fabricante|referencia del fabricante|ref fabricante|codigo fabricante|numero de fabricante|codigo del fabricante|modelo del fabricante|modelo fabricante|clave del fabricante',
  state: 'estado|disponibilidad|activo|situacion|disponible',
  page: 'enlace|pagina|enlace producto|pagina producto|url|direccion web|enlace web',
  pictures: 'imagen|imagenes|foto|fotos|url imagen|imagen principal|fotografia|enlace imagen',
  morePictures: 'mas imagenes|imagenes adicionales|galeria|otras imagenes',
  colour: 'color|nombre del color|tono|color principal',
  size: 'talla|tamano|numero de calzado|tallas',
  sizes: 'dimensiones|medidas|dimension|medida',
  material: 'material|materiales|composicion|tejido|tela',
  pattern: 'estampado|motivo|patron|dibujo|decoracion',
  width: 'ancho|anchura',
  height: 'alto|altura',
  depth: 'fondo|profundidad',
  length: 'largo|longitud',
  diameter: 'diametro|diam',
  weight: 'peso|peso neto|peso producto',
  volume: 'volumen|contenido|capacidad',
  power: 'potencia|potencia max|potencia nominal|vatios',
  voltage: 'tension|voltaje|tension nominal',
  energyClass: 'clase energetica|etiqueta energetica|eficiencia energetica',
  condition: 'condicion|estado del articulo|estado del producto',
  packSize: 'numero de piezas|piezas|unidades por paquete|piezas por paquete|unidades pack',
  origin: 'pais de origen|origen|pais de fabricacion|fabricado en|pais',
  customsCode:
    'codigo arancelario|partida arancelaria|codigo hs|taric|codigo taric|codigo nc|fraccion arancelaria|codigo aduanero',
  warranty: 'garantia|periodo de garantia|duracion garantia',
  care: 'cuidado|cuidados|instrucciones de lavado|mantenimiento|lavado',
  audience: 'genero|sexo|publico|grupo de edad',
  purchasePrice:
    'precio de compra|precio compra|precio neto|coste|costo|precio de coste|precio mayorista|precio distribuidor|neto|su precio',
  recommendedPrice:
    'pvp|precio recomendado|pvpr|precio de venta recomendado|precio de venta al publico|pvp recomendado|precio catalogo|precio publico',
  price: 'precio|precio de venta|precio unitario|precio venta|precio bruto|pv|tarifa',
  salePrice: 'precio oferta|precio de oferta|precio promocional|precio rebajado|oferta',
  saleFrom: 'oferta desde|inicio oferta',
  saleTo: 'oferta hasta|fin oferta',
  stock:
    'stock|existencias|cantidad|inventario|disponible|en stock|cantidad disponible|unidades disponibles|disponibilidad|disponibles',
  boughtFrom: 'proveedor|nombre proveedor',
  theirNumber: 'referencia proveedor|ref proveedor|codigo proveedor|referencia del proveedor',
  nothing:
    'observaciones|nota|notas|comentario|pedido minimo|cantidad minima|descuento|iva|tipo iva|plazo de entrega|actualizado|creado|posicion|linea|ubicacion|valido desde|valido hasta|punto de pedido|unidades por caja|caja|embalaje|novedad|temporada|unidad|moneda|divisa|unidad de precio|pagina catalogo|fecha|modificado|unidad de venta|clase abc',
};
