import { describe, expect, it } from 'vitest'
import { cleanSvg, svgOfRegion } from '#core/formats/clean-svg'

const svg = (body: string, attributes = 'viewBox="0 0 100 50"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`
const bodyOf = (body: string) => cleanSvg(svg(body), 'test.svg').body

describe('a cleaned drawing', () => {
  it('keeps what draws', () => {
    const body =
      '<defs><linearGradient id="g"><stop offset="0" stop-color="red"></stop></linearGradient></defs><path d="M0 0h5" fill="url(#g)"></path>'
    expect(bodyOf(body)).toBe(body)
    expect(bodyOf('<use xlink:href="#g"/>')).toBe('<use href="#g"></use>')
    expect(bodyOf('<image href="data:image/png;base64,AAAA"/>')).toBe('<image href="data:image/png;base64,AAAA"></image>')
  })

  it.each([
    ['scripts', '<script>alert(1)</script>'],
    ['scripts in disguise', '<svg:script>alert(1)</svg:script><style>a</style><set attributeName="onload" to="alert(1)"/>'],
    ['foreign objects, with all in them', '<foreignObject><body><rect width="1"/></body></foreignObject>'],
    ['event handlers', '<rect onclick="alert(1)" ONLOAD="alert(2)"/>'],
    [
      'references to files and hosts',
      '<image href="file:///etc/passwd"/><use href="https://example.org/a.svg#b"/><image xlink:href="//example.org/x.png"/>',
    ],
    ['drawings within data, which might hold anything', '<image href="data:image/svg+xml;base64,PHN2Zy8+"/>'],
    [
      'styles that lead out',
      '<style>@import "https://example.org/x.css"; a{fill:url( "https://example.org/x" )}</style><rect style="fill:url(http://example.org)"/>',
    ],
    ['links', '<a href="javascript:alert(1)"><rect/></a>'],
  ])('has no %s', (_what, body) => expect(bodyOf(body)).not.toMatch(/alert|script|foreign|passwd|example|svg\+xml|@import/))

  it('escapes what text could smuggle in', () =>
    expect(bodyOf('<text>&lt;script&gt; &amp; "x"</text>')).toBe('<text>&lt;script&gt; &amp; &quot;x&quot;</text>'))

  it('takes its size from the viewBox, or from width and height in any CSS unit', () => {
    expect(cleanSvg(svg(''), 'a').viewBox).toEqual([0, 0, 100, 50])
    expect(cleanSvg(svg('', 'width="1in" height="25.4mm"'), 'a').viewBox).toEqual([0, 0, 96, 96])
    expect(() => cleanSvg(svg('', 'width="100%" height="50"'), 'a')).toThrow(/does not say how large/)
  })

  it.each([
    ['entities', '<!DOCTYPE svg [<!ENTITY x "y">]><svg viewBox="0 0 1 1"/>', /XML entities/],
    ['an unknown entity', svg('<text>&nbsp;</text>'), /XML entities/],
    ['a missing end', '<svg viewBox="0 0 1 1"><g>', /not a well-formed SVG \(line 1/],
    ['another root', '<html><svg/></html>', /outermost element is <html>/],
    ['elements nested without end', svg('<g>'.repeat(300) + '</g>'.repeat(300)), /nested more than 200 deep/],
    [
      'copies of copies',
      svg(
        `<defs><rect id="a0"/>${Array.from({ length: 8 }, (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(9)}</g>`).join('')}</defs><use href="#a8"/>`,
      ),
      /repeats its parts/,
    ],
  ])('is refused for %s', (_what, text, message) => expect(() => cleanSvg(text, 'bad.svg')).toThrow(message))

  it('is not refused for a part that uses itself, which is not drawn', () =>
    expect(() => cleanSvg(svg('<g id="a"><use href="#a"/></g>'), 'a')).not.toThrow())

  it('is shown in part by a viewBox over its nominal size', () => {
    const text = svgOfRegion(
      cleanSvg(svg('<rect/>'), 'a'),
      { width: 4096, height: 2048 },
      { x: 10, y: 20, width: 30, height: 40 },
      { width: 300, height: 400 },
    )
    expect(text).toContain('viewBox="10 20 30 40" width="300" height="400"')
    expect(text).toContain('width="4096" height="2048" viewBox="0 0 100 50"')
  })
})
