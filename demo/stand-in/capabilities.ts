import { escapeXml } from '#core/formats/escape-xml'
import { SEMI_MAJOR_AXIS } from '#core/geo/earth'
import type { TileGrid } from '#core/journey/schema'
import { resolutionOf, webMercatorGrid } from '#core/tiles/grids'
import { STYLES } from './isles-tiles'

/** What the stand-in says as a WMTS. Source: OGC 07-057r7, section 7.1. */

/** The finest level that the stand-in has. */
export const LAST_LEVEL = 16

/** The grid WorldCRS84Quad: at level 0 two tiles. Source: OGC 17-083r4, annex D. */
const worldGrid: TileGrid = {
  plane: 'degrees',
  left: -180,
  top: 90,
  side: 256,
  resolution: 180 / 256,
  levels: Array.from({ length: LAST_LEVEL }, (_, k) => ({ id: String(k), columns: 2 * 2 ** k, rows: 2 ** k })),
}

/** The sets of levels by their names. */
export const SETS: Readonly<Record<string, { grid: TileGrid; crs: string }>> = {
  WebMercatorQuad: { grid: webMercatorGrid(256, 0, LAST_LEVEL), crs: 'urn:ogc:def:crs:EPSG::3857' },
  WorldCRS84Quad: { grid: worldGrid, crs: 'urn:ogc:def:crs:OGC:1.3:CRS84' },
}

const METRES_PER_DEGREE = (Math.PI * SEMI_MAJOR_AXIS) / 180

function setXml(id: string, { grid, crs }: (typeof SETS)[string]): string {
  const metres = grid.plane === 'degrees' ? METRES_PER_DEGREE : 1
  const matrices = grid.levels.map(
    ({ id: name, columns, rows }, level) => `<TileMatrix><ows:Identifier>${name}</ows:Identifier>
<ScaleDenominator>${(resolutionOf(grid, level) * metres) / 0.00028}</ScaleDenominator>
<TopLeftCorner>${grid.left} ${grid.top}</TopLeftCorner><TileWidth>${grid.side}</TileWidth><TileHeight>${grid.side}</TileHeight>
<MatrixWidth>${columns}</MatrixWidth><MatrixHeight>${rows}</MatrixHeight></TileMatrix>`,
  )
  return `<TileMatrixSet><ows:Identifier>${id}</ows:Identifier><ows:SupportedCRS>${crs}</ows:SupportedCRS>${matrices.join('\n')}</TileMatrixSet>`
}

/** @param root the stand-in's own address, without a slash at its end @param query what each address is to carry, such as a key */
export function capabilities(root: string, query: string): string {
  const styles = Object.keys(STYLES).map(
    (style, i) =>
      `<Style${i === 0 ? ' isDefault="true"' : ''}><ows:Title>${style === 'day' ? 'By day' : 'At dusk'}</ows:Title><ows:Identifier>${style}</ows:Identifier></Style>`,
  )
  const links = Object.keys(SETS).map((set) => `<TileMatrixSetLink><TileMatrixSet>${set}</TileMatrixSet></TileMatrixSetLink>`)
  return `<?xml version="1.0" encoding="UTF-8"?>
<Capabilities xmlns="http://www.opengis.net/wmts/1.0" xmlns:ows="http://www.opengis.net/ows/1.1" xmlns:xlink="http://www.w3.org/1999/xlink" version="1.0.0">
<ows:ServiceIdentification><ows:Title>Lantern Isles survey</ows:Title><ows:ServiceType>OGC WMTS</ows:ServiceType>
<ows:ServiceTypeVersion>1.0.0</ows:ServiceTypeVersion><ows:Fees>none</ows:Fees><ows:AccessConstraints>CC0 1.0, made up</ows:AccessConstraints></ows:ServiceIdentification>
<ows:ServiceProvider><ows:ProviderName>Zephyrine</ows:ProviderName></ows:ServiceProvider>
<ows:OperationsMetadata><ows:Operation name="GetTile"><ows:DCP><ows:HTTP><ows:Get xlink:href="${escapeXml(`${root}/wmts${query}`)}">
<ows:Constraint name="GetEncoding"><ows:AllowedValues><ows:Value>KVP</ows:Value></ows:AllowedValues></ows:Constraint></ows:Get></ows:HTTP></ows:DCP></ows:Operation></ows:OperationsMetadata>
<Contents><Layer><ows:Title>Lantern Isles</ows:Title><ows:Identifier>isles</ows:Identifier>
<ows:WGS84BoundingBox><ows:LowerCorner>84 -39.04</ows:LowerCorner><ows:UpperCorner>85.84 -38.22</ows:UpperCorner></ows:WGS84BoundingBox>
${styles.join('')}<Format>image/png</Format><Format>image/jpeg</Format>${links.join('')}
<ResourceURL format="image/png" resourceType="tile" template="${escapeXml(`${root}/wmts/{Style}/{TileMatrixSet}/{TileMatrix}/{TileRow}/{TileCol}.png${query}`)}"/></Layer>
<Layer><ows:Title>Lantern Isles, by key-value pairs</ows:Title><ows:Identifier>isles-kvp</ows:Identifier>
${styles.join('')}<Format>image/jpeg</Format><TileMatrixSetLink><TileMatrixSet>WebMercatorQuad</TileMatrixSet></TileMatrixSetLink></Layer>
${Object.entries(SETS)
  .map(([id, set]) => setXml(id, set))
  .join('\n')}</Contents></Capabilities>`
}
