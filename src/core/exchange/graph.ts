import type { MapData } from '../view/map.ts'

/** The map as other programs draw it: places as nodes, passages as edges with the gates that bar them. */

function escaped(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;')
}

const waveText = (wave: number | null) => (wave === null ? 'never' : String(wave))

export function graphmlOf({ places, passages, gates }: MapData): string {
  const ids = new Map(places.map(({ key, id }) => [key, id]))
  const names = new Map(gates.map(({ key, name }) => [key, name]))
  const keys = [['node', 'name', 'string'], ['node', 'wave', 'string'], ['node', 'goal', 'boolean'], ['edge', 'gates', 'string'], ['edge', 'twoWay', 'boolean']] as const
  const data = (key: string, value: string | boolean) => `<data key="${key}">${escaped(String(value))}</data>`
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<graphml xmlns="http://graphml.graphdrawing.org/xmlns">',
    ...keys.map(([of, name, type]) => `  <key id="${name}" for="${of}" attr.name="${name}" attr.type="${type}"/>`),
    '  <graph id="map" edgedefault="directed">',
    ...places.map(({ id, name, goal, waves }) => `    <node id="${id}">${data('name', name)}${data('wave', waveText(waves.once))}${data('goal', goal)}</node>`),
    ...passages.map(({ id, from, to, twoWay, gates: barring }) => `    <edge id="${id}" source="${ids.get(from)}" target="${ids.get(to)}">${data('gates', barring.map((key) => names.get(key)).join(', '))}${data('twoWay', twoWay)}</edge>`),
    '  </graph>',
    '</graphml>',
    '',
  ].join('\n')
}

export function dotOf({ places, passages, gates }: MapData): string {
  const ids = new Map(places.map(({ key, id }) => [key, id]))
  const names = new Map(gates.map(({ key, name }) => [key, name]))
  const text = (value: string) => `"${value.replace(/\\/g, '\\\\').replace(/"/g, '\\"')}"`
  return [
    'digraph map {',
    '  rankdir=LR;',
    ...places.map(({ id, name, goal, waves }) => `  ${id} [label=${text(`${name}\\nwave ${waveText(waves.once)}`).replace('\\\\n', '\\n')}${goal ? ', peripheries=2' : ''}];`),
    ...passages.map(({ from, to, twoWay, gates: barring }) => `  ${ids.get(from)} -> ${ids.get(to)} [${[...(twoWay ? ['dir=both'] : []), ...(barring.length ? [`label=${text(barring.map((key) => names.get(key)!).join(', '))}`] : [])].join(', ')}];`),
    '}',
    '',
  ].join('\n')
}
