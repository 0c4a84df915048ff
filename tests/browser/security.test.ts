import { createServer } from 'node:http'
import type { Server } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { useDemoPage } from '../support/demo-page'

/** A page of another origin, in the same browser. */
let foreign: Server
let elsewhere: string
beforeAll(async () => {
  foreign = createServer((_request, response) => {
    response.setHeader('content-type', 'text/html')
    response.end('<!doctype html><title>Elsewhere</title><body></body>')
  })
  await new Promise<void>((resolve) => foreign.listen(0, '127.0.0.1', resolve))
  elsewhere = `http://127.0.0.1:${(foreign.address() as { port: number }).port}/`
})
afterAll(() => foreign.close())

const demo = useDemoPage({ ownServer: true })

describe('the page’s policy', () => {
  it('lets everything work that the application does, and no script from elsewhere', async () => {
    const { page } = demo
    await page.addInitScript(() => {
      const violations: string[] = []
      Object.assign(window, { violations })
      document.addEventListener('securitypolicyviolation', (event) => violations.push(`${event.violatedDirective} ${event.blockedURI}`))
    })
    await page.reload()
    await page.getByTestId('stop-handle').first().waitFor()
    // A worker, a picture of the server, a wash as data, the world’s coasts, and a dialog.
    await page.getByRole('button', { name: 'Leg 2', exact: true }).click()
    await page.keyboard.press('p')
    await page.getByText(/^Found: /).waitFor()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByTestId('play').click()
    await page.getByTestId('play').click()
    expect(await page.evaluate(() => (window as unknown as { violations: string[] }).violations)).toEqual([])
    const ran = await page.evaluate(() => {
      const script = document.createElement('script')
      script.textContent = 'window.ran = true'
      document.body.append(script)
      return 'ran' in window
    })
    expect(ran, 'a script in the page without a hash').toBe(false)
  })
})

describe('a page of another site', () => {
  it('cannot frame, read or change anything', async () => {
    const page = await demo.page.context().newPage()
    await page.goto(elsewhere)
    const { address, id } = demo
    const list = async () => (await (await fetch(`${address}/api/journeys`)).json()) as { id: string }[]
    const before = await list()
    await page.evaluate(
      (src) =>
        new Promise((resolve) => {
          const frame = document.createElement('iframe')
          frame.onload = resolve
          frame.src = src
          document.body.append(frame)
        }),
      `${address}/journeys/${id}`,
    )
    expect(page.frames().map((frame) => frame.url())).not.toContain(`${address}/journeys/${id}`)
    const tried = await page.evaluate(
      async ({ address, id }) => {
        const settle = (run: () => Promise<unknown>) => run().then(() => 'done', () => 'refused') // prettier-ignore
        const picture = () =>
          new Promise((resolve, reject) => {
            const image = new Image()
            image.onload = resolve
            image.onerror = reject
            image.src = `${address}/icon.svg`
          })
        return {
          read: await settle(() => fetch(`${address}/api/journeys/${id}`)),
          remove: await settle(() => fetch(`${address}/api/journeys/${id}`, { method: 'DELETE' })),
          blind: await settle(() =>
            fetch(`${address}/api/journeys/${id}/duplicate`, { method: 'POST', mode: 'no-cors' }).then((answer) => answer.type),
          ),
          header: await settle(() => fetch(`${address}/api/journeys/${id}/duplicate`, { method: 'POST', headers: { 'x-zephyrine': '1' } })),
          picture: await settle(picture),
        }
      },
      { address, id },
    )
    // A blind request is sent, but its answer cannot be read.
    expect(tried).toMatchObject({ read: 'refused', remove: 'refused', header: 'refused', picture: 'refused' })
    expect((await list()).map((journey) => journey.id)).toEqual(before.map((journey) => journey.id))
    await page.close()
  })
})
