/** From the list of journeys to a film by a few written words: three clicks. */
import { expect, it } from 'vitest'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()

it('a trip in a few words becomes a film, with what was chosen shown and changed first', async () => {
  const { page } = demo
  await page.goto(`${demo.address}/`)
  await page.getByTestId('write-trip').click()
  const text = page.getByTestId('trip-text').locator('textarea').first()
  await text.fill('12 May: Lisbon\nby train to Madrid, 2 nights\n31 June Springfield\nby llama to Marrakesh: the old town')
  const places = page.getByTestId('trip-place')
  await expect.poll(() => places.count()).toBe(4)
  const dialog = page.getByRole('dialog')
  // What is not understood is told, and what is not certain is marked.
  await expect.poll(() => dialog.innerText()).toContain('“31 June” is no day that exists')
  expect(await dialog.innerText()).toContain('“llama” is no way to travel')
  expect(await dialog.innerText()).toContain('One place is not certain')
  await places.nth(2).getByTestId('trip-option').click()
  await page.getByText('Springfield, Illinois, United States').click()
  await expect.poll(() => places.nth(2).innerText()).toContain('Illinois')
  await expect.poll(() => dialog.innerText()).not.toContain('not certain')
  // A choice is kept while the text is edited, though the places before it, and the order of what is offered, are others then.
  await text.fill(`Boston\n${await text.inputValue()}`)
  await expect.poll(() => places.count()).toBe(5)
  expect(await places.nth(3).innerText()).toContain('Illinois')
  await text.fill((await text.inputValue()).replace('Boston\n', ''))
  await expect.poll(() => places.count()).toBe(4)
  await places.nth(2).getByRole('button', { name: 'Leave out Springfield' }).click()
  // How one gets to Marrakesh is guessed by the distance from Madrid then.
  expect(await places.nth(3).innerText()).toContain('guessed')

  await page.getByTestId('make-trip').click()
  await page.waitForURL(/\/journeys\//)
  demo.id = page.url().split('/').at(-1)!
  await page.getByTestId('stage-canvas').waitFor()
  const journey = await demo.stored()
  expect(journey.name).toBe('Lisbon to Marrakesh')
  expect(journey.stops.map(({ name }) => name)).toEqual(['Lisbon', 'Madrid', 'Marrakesh'])
  const { legs, visits } = journey.travellers[0]!
  expect(legs[0]!.vehicle).toMatchObject({ artwork: 'train' })
  expect(visits[0]!.date).toMatch(/-05-12$/)
  expect(journey.stops[2]!.label.second).toEqual({ kind: 'note', text: 'the old town' })
  await page.keyboard.press('Space')
  await expect.poll(() => page.getByRole('button', { name: /Pause/ }).count()).toBeGreaterThan(0)
})

it('nothing that could be a trip leaves the button off, and what is written stays while the dialog is closed', async () => {
  const { page } = demo
  await page.goto(`${demo.address}/`)
  await page.getByTestId('write-trip').click()
  const text = page.getByTestId('trip-text').locator('textarea').first()
  await text.fill('# only a comment')
  await expect.poll(() => page.getByTestId('make-trip').isDisabled()).toBe(true)
  await text.fill('Qwxzyvut - Lisbon')
  await expect.poll(() => page.getByRole('dialog').innerText()).toContain('not found')
  expect(await page.getByTestId('make-trip').isDisabled()).toBe(true)
  await page.keyboard.press('Escape')
  await page.getByTestId('write-trip').click()
  expect(await text.inputValue()).toBe('Qwxzyvut - Lisbon')
})
