/** Capabilities of made-up map services, written after the examples of OGC 07-057r7, section 7.1 and annex D. */

const document = (contents: string, operations = '', service = '') => `<?xml version="1.0" encoding="UTF-8"?>
<Capabilities xmlns="http://www.opengis.net/wmts/1.0" xmlns:ows="http://www.opengis.net/ows/1.1" xmlns:xlink="http://www.w3.org/1999/xlink" version="1.0.0">
${service}${operations}<Contents>${contents}</Contents></Capabilities>`

/** Scale denominators of WebMercatorQuad. Source: OGC 17-083r4, annex D. */
const SCALES = [559082264.028717, 279541132.014358, 139770566.007179, 69885283.0035897]

const matrix = (id: string, scale: number, corner: string, side: number, columns: number, rows: number) =>
  `<TileMatrix><ows:Identifier>${id}</ows:Identifier><ScaleDenominator>${scale}</ScaleDenominator><TopLeftCorner>${corner}</TopLeftCorner>
<TileWidth>${side}</TileWidth><TileHeight>${side}</TileHeight><MatrixWidth>${columns}</MatrixWidth><MatrixHeight>${rows}</MatrixHeight></TileMatrix>`

const set = (id: string, crs: string, matrices: string) =>
  `<TileMatrixSet><ows:Identifier>${id}</ows:Identifier><ows:SupportedCRS>${crs}</ows:SupportedCRS>${matrices}</TileMatrixSet>`

const CORNER = '-20037508.3427892 20037508.3427892'

/** Tiles by resource addresses, in Web Mercator, with two styles and a dimension of time. */
export const RESOURCES = document(
  `<Layer><ows:Title>Relief</ows:Title><ows:Identifier>relief</ows:Identifier>
<ows:WGS84BoundingBox><ows:LowerCorner>5.9 45.8</ows:LowerCorner><ows:UpperCorner>10.5 47.9</ows:UpperCorner></ows:WGS84BoundingBox>
<Style><ows:Title>Tinted</ows:Title><ows:Identifier>tinted</ows:Identifier></Style>
<Style isDefault="true"><ows:Title>Plain</ows:Title><ows:Identifier>plain</ows:Identifier></Style>
<Format>image/jpeg</Format><Format>image/png</Format>
<Dimension><ows:Identifier>Time</ows:Identifier><Default>2024-05</Default><Value>2023-05</Value><Value>2024-05</Value></Dimension>
<TileMatrixSetLink><TileMatrixSet>quad</TileMatrixSet><TileMatrixSetLimits>${['L01', 'L02'].map((id) => `<TileMatrixLimits><TileMatrix>${id}</TileMatrix><MinTileRow>0</MinTileRow><MaxTileRow>1</MaxTileRow><MinTileCol>0</MinTileCol><MaxTileCol>1</MaxTileCol></TileMatrixLimits>`).join('')}</TileMatrixSetLimits></TileMatrixSetLink>
<ResourceURL format="image/jpeg" resourceType="tile" template="https://maps.example/wmts/relief/{Style}/{Time}/{TileMatrixSet}/{TileMatrix}/{TileRow}/{TileCol}.jpg"/>
<ResourceURL format="image/png" resourceType="tile" template="https://maps.example/wmts/relief/{Style}/{Time}/{TileMatrixSet}/{TileMatrix}/{TileRow}/{TileCol}.png"/>
</Layer>${set('quad', 'urn:ogc:def:crs:EPSG:6.18:3:3857', SCALES.slice(0, 3).map((scale, k) => matrix(`L0${k}`, scale, CORNER, 256, 2 ** k, 2 ** k)).join('')) /* prettier-ignore */}`,
  '',
  `<ows:ServiceIdentification><ows:Title>A survey</ows:Title><ows:Fees>none</ows:Fees><ows:AccessConstraints>Only with a credit</ows:AccessConstraints></ows:ServiceIdentification>
<ows:ServiceProvider><ows:ProviderName>Office of maps</ows:ProviderName><ows:ProviderSite xlink:href="https://maps.example"/></ows:ServiceProvider>`,
)

/** The scale of 180 degrees to 512 pixels: 180 / 512 x 111319.4908 m / 0.28 mm. */
const DEGREES = ((180 / 512) * 111319.490793273) / 0.00028

/** Tiles by key-value pairs, in degrees, with the latitude first as the URN of EPSG:4326 wants it. */
export const KEY_VALUE_PAIRS = document(
  `<Layer><ows:Title>Depths</ows:Title><ows:Identifier>depths &amp; reefs</ows:Identifier><Style isDefault="true"><ows:Identifier>default</ows:Identifier></Style>
<Format>image/jpeg</Format><TileMatrixSetLink><TileMatrixSet>degrees</TileMatrixSet></TileMatrixSetLink></Layer>
${set('degrees', 'urn:ogc:def:crs:EPSG::4326', [0, 1].map((k) => matrix(`EPSG:4326:${k}`, DEGREES / 2 ** k, '90 -180', 512, 2 * 2 ** k, 2 ** k)).join('')) /* prettier-ignore */}`,
  `<ows:OperationsMetadata><ows:Operation name="GetCapabilities"><ows:DCP><ows:HTTP><ows:Get xlink:href="https://maps.example/other?"/></ows:HTTP></ows:DCP></ows:Operation>
<ows:Operation name="GetTile"><ows:DCP><ows:HTTP>
<ows:Get xlink:href="https://maps.example/rest"><ows:Constraint name="GetEncoding"><ows:AllowedValues><ows:Value>RESTful</ows:Value></ows:AllowedValues></ows:Constraint></ows:Get>
<ows:Get xlink:href="https://maps.example/cgi?map=sea&amp;"><ows:Constraint name="GetEncoding"><ows:AllowedValues><ows:Value>KVP</ows:Value></ows:AllowedValues></ows:Constraint></ows:Get>
</ows:HTTP></ows:DCP></ows:Operation></ows:OperationsMetadata>`,
)

const plainLayer = (title: string, tiles: string, format = 'image/png') =>
  `<Layer><ows:Title>${title}</ows:Title><ows:Identifier>${title}</ows:Identifier><Format>${format}</Format>
<TileMatrixSetLink><TileMatrixSet>${tiles}</TileMatrixSet></TileMatrixSetLink>
<ResourceURL format="${format}" resourceType="tile" template="https://maps.example/${title}/{TileMatrix}/{TileRow}/{TileCol}"/></Layer>`

/** One layer that can be used, of which the first level does not fit the others; and four that cannot. */
export const MIXED = document(
  [
    plainLayer('Roads', 'odd'),
    plainLayer('National', 'lv95'),
    plainLayer('Thirds', 'thirds'),
    plainLayer('Lines', 'odd', 'application/vnd.mapbox-vector-tile'),
    plainLayer('Lost', 'nowhere'),
    set('odd', 'urn:ogc:def:crs:EPSG::3857', [9e8, ...SCALES.slice(1)].map((scale, k) => matrix(String(k), scale, CORNER, 256, 2 ** k, 2 ** k)).join('')), // prettier-ignore
    set('lv95', 'urn:ogc:def:crs:EPSG::2056', matrix('0', 14285714, '2420000 1350000', 256, 1, 1)),
    set('thirds', 'urn:ogc:def:crs:EPSG::3857', [0, 1, 2].map((k) => matrix(String(k), SCALES[0]! / 3 ** k, CORNER, 256, 3 ** k, 3 ** k)).join('')), // prettier-ignore
  ].join('\n'),
)
