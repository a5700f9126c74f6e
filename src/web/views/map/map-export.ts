import { dotOf, graphmlOf } from '../../../core/exchange/graph.ts'
import type { MapData } from '../../../core/view/map.ts'

export type MapFormat = 'svg' | 'png' | 'graphml' | 'dot'

const styleNames = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'font-size', 'font-weight', 'font-family', 'opacity', 'text-anchor', 'color'] as const

/** The picture as it stands, with the styles that the page gives it written into it. */
function standalone(svg: SVGSVGElement, width: number, height: number): string {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const [own, copied] = [svg.querySelectorAll('*'), copy.querySelectorAll('*')]
  own.forEach((element, i) => {
    const style = getComputedStyle(element)
    copied[i]!.setAttribute('style', styleNames.map((name) => `${name}:${style.getPropertyValue(name)}`).join(';'))
  })
  copy.querySelector('[data-zoomed]')?.removeAttribute('transform')
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(width))
  copy.setAttribute('height', String(height))
  copy.setAttribute('viewBox', `0 0 ${width} ${height}`)
  copy.setAttribute('style', `background:${getComputedStyle(document.body).backgroundColor}`)
  return new XMLSerializer().serializeToString(copy)
}

async function pngOf(svg: string, width: number, height: number): Promise<Blob> {
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
  await image.decode()
  // Twice as fine as on the screen, as far as a canvas can be.
  const scale = Math.min(2, 8_000 / Math.max(width, height))
  const canvas = Object.assign(document.createElement('canvas'), { width: width * scale, height: height * scale })
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((done, failed) => canvas.toBlob((blob) => (blob ? done(blob) : failed(new Error('the picture is too large'))), 'image/png'))
}

/** Gives the map as a file of a format. */
export async function saveMap(format: MapFormat, name: string, data: MapData, svg: SVGSVGElement, width: number, height: number): Promise<void> {
  const blob = format === 'graphml' ? new Blob([graphmlOf(data)], { type: 'application/xml' })
    : format === 'dot' ? new Blob([dotOf(data)], { type: 'text/vnd.graphviz' })
    : format === 'svg' ? new Blob([standalone(svg, width, height)], { type: 'image/svg+xml' })
    : await pngOf(standalone(svg, width, height), width, height)
  const url = URL.createObjectURL(blob)
  Object.assign(document.createElement('a'), { href: url, download: `${name}.${format}` }).click()
  URL.revokeObjectURL(url)
}
