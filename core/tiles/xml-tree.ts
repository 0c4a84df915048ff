import { SaxesParser } from 'saxes'
import { JourneyError } from '../error'

/** An element of a small XML document; names come without their namespace prefixes. */
export interface XmlElement {
  name: string
  attributes: Readonly<Record<string, string>>
  children: XmlElement[]
  /** The text that stands directly in it, trimmed. */
  text: string
}

/** The most elements that are kept: ten times as many as the largest services have. */
const MOST_ELEMENTS = 500_000
const DEEPEST = 100

const localName = (name: string) => name.slice(name.indexOf(':') + 1)

/**
 * A document as a tree.
 * @param what it is, for the messages
 * @throws JourneyError if it is not well-formed, uses entities of its own, or is larger than any honest one
 */
export function readXmlTree(text: string, what: string): XmlElement {
  const fail = (message: string): never => {
    throw new JourneyError(`${what} ${message}`)
  }
  const parser = new SaxesParser({ xmlns: false, position: false })
  const open: XmlElement[] = []
  let root: XmlElement | undefined
  let count = 0
  parser.on('error', (error) =>
    fail(/entity/i.test(error.message) ? 'uses XML entities of its own, which are not read.' : 'is not well-formed XML.'),
  )
  parser.on('doctype', (doctype) => void (/<!ENTITY/i.test(doctype) && fail('uses XML entities of its own, which are not read.')))
  parser.on('opentag', ({ name, attributes }) => {
    if (++count > MOST_ELEMENTS || open.length >= DEEPEST) fail('is too large or too deep.')
    const plain = Object.fromEntries(Object.entries(attributes).map(([key, value]) => [localName(key), value]))
    const element: XmlElement = { name: localName(name), attributes: plain, children: [], text: '' }
    open.at(-1)?.children.push(element)
    root ??= element
    open.push(element)
  })
  const write = (words: string) => {
    const element = open.at(-1)
    if (element) element.text += words
  }
  parser.on('text', write)
  parser.on('cdata', write)
  parser.on('closetag', () => {
    const element = open.pop()
    if (element) element.text = element.text.trim()
  })
  parser.write(text).close()
  return root ?? fail('is empty.')
}

export const childrenOf = ({ children }: XmlElement, name: string): XmlElement[] => children.filter((child) => child.name === name)

/** The first element at the end of a path of names; undefined where there is none. */
export const elementAt = (from: XmlElement | undefined, ...path: string[]): XmlElement | undefined =>
  path.reduce<XmlElement | undefined>((at, name) => at?.children.find((child) => child.name === name), from)

/** The text at the end of a path of names; empty where there is none. */
export const textAt = (from: XmlElement | undefined, ...path: string[]): string => elementAt(from, ...path)?.text ?? ''
