import type { DesignSummary, DesignView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { encode } from 'fast-png';
import { counted } from './hand.js';
import { sendOrder, violationsOf, watchForErrors } from './support.js';

test('a face is piped on a round: eyes in four rings, a smile, dusted cheeks, a name, a sugared rim; ordered and planned', async ({
  page,
  request,
}) => {
  test.setTimeout(180_000);
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await page.getByRole('button', { name: 'round', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'round' })).toBeVisible();
  const hand = counted(page);
  const bar = page.getByRole('group', { name: /^(Pipe on it|How it is piped)$/ });
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  const breadth = bar.getByLabel(/^(dot|breadth|round, by a tap), mm/);
  const colour = bar.getByLabel('colour to pipe');
  const tool = (name: string) => bar.getByRole('button', { name, exact: true });

  // The flood white.
  await hand.fill(page.getByRole('region', { name: /Part: / }).getByLabel('colour', { exact: true }), '#f6f3ea');
  // Two eyes of four rings, each pair by one tap.
  await hand.press(tool('wet drops'));
  await hand.choose(bar.getByLabel('repeated'), 'mirror');
  for (const [size, hex] of [
    ['14', '#22343c'],
    ['10.5', '#3f7f86'],
    ['6', '#101418'],
    ['2.2', '#ffffff'],
  ] as const) {
    await hand.fill(breadth, size);
    await hand.fill(colour, hex);
    await hand.tap(0.35, 0.4);
  }
  await expect(page.getByText(/It adds .* of hands to a cookie|It adds hardly any work/)).toBeVisible();
  // A smile in pen.
  await hand.press(tool('pen'));
  await hand.choose(bar.getByLabel('repeated'), 'none');
  await hand.stroke([0.36, 0.6], [0.42, 0.66], [0.5, 0.68], [0.58, 0.66], [0.64, 0.6]);
  // Cheeks in dust.
  await hand.press(tool('dust'));
  await hand.choose(bar.getByLabel('repeated'), 'mirror');
  await hand.fill(colour, '#e58f8f');
  await hand.tap(0.26, 0.58);
  // A name of six letters.
  await hand.press(tool('letters'));
  await hand.fill(bar.getByLabel('words'), 'Marina');
  await hand.fill(bar.getByLabel(/^down/), '82');
  await hand.fill(bar.getByLabel(/^capitals/), '6');
  await hand.press(bar.getByRole('button', { name: 'Pipe the words' }));
  await expect(stack.getByRole('button', { name: /Marina/ }).last()).toBeVisible();
  // A sugared rim.
  await hand.press(stack.getByRole('listitem').first().getByRole('button').last());
  await hand.press(tool('sugared line'));
  await hand.press(bar.getByRole('button', { name: /Round the edge of/ }));
  await expect(stack.getByRole('button', { name: /sugared line/ }).last()).toBeVisible();
  expect(hand.actions).toBeLessThanOrEqual(40);
  await hand.press(tool('sugared line'));

  // The server has it as it was drawn, each thing with a technique, a bag and a place in the order.
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const face = designs.find((d) => d.name === 'round');
  const view = (await (await request.get(`/api/designs/${face?.id}`)).json()) as DesignView;
  const drawn = view.document.edits.filter((e) => e.type === 'draw');
  expect(drawn.map((e) => e.type === 'draw' && e.technique)).toEqual([
    'wet-drop',
    'wet-drop',
    'wet-drop',
    'wet-drop',
    'pen',
    'dust',
    'lettering',
    'dipped-bead',
  ]);
  await expect(page.getByRole('img', { name: /round, \d+ mm wide/ }).locator('image')).toBeAttached();
  expect(await violationsOf(page)).toEqual([]);
  // Undone as far as one likes, done again, there after a reload.
  for (let i = 0; i < 8; i++) await page.getByRole('button', { name: 'undo' }).click();
  await expect(stack.getByRole('button', { name: /Marina/ })).toHaveCount(0);
  for (let i = 0; i < 8; i++) await page.getByRole('button', { name: 'redo' }).click();
  await expect(stack.getByRole('button', { name: /Marina/ }).last()).toBeVisible();
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  await page.reload();
  await expect(stack.getByRole('button', { name: /sugared line/ }).last()).toBeVisible();

  // Ordered and planned, all of it in less than three minutes of a hand that thinks before every action.
  await hand.press(page.getByRole('link', { name: 'Orders', exact: true }));
  await hand.press(page.getByRole('link', { name: 'New order' }));
  await hand.fill(page.getByLabel('Name of the order'), 'Faces');
  await hand.choose(page.getByRole('combobox', { name: 'Design 1' }), 'round');
  await hand.fill(page.getByLabel('cookies'), '6');
  await hand.press(page.getByRole('button', { name: 'Keep the order' }));
  await hand.press(page.getByRole('button', { name: 'Plan it' }));
  await expect(page.getByText('It fits.')).toBeVisible({ timeout: 60_000 });
  expect(hand.seconds).toBeLessThan(180);
  expect(errors).toEqual([]);
});

test('by keys alone: dots, a line and a flood on top are piped, and what cannot be is said', async ({ page }) => {
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await page.getByRole('button', { name: 'square', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'square' })).toBeVisible();
  const bar = page.getByRole('group', { name: /^(Pipe on it|How it is piped)$/ });
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  const surface = page.getByRole('application', { name: /The cookie, to pipe on/ });
  const start = async (name: string) => {
    await bar.getByRole('button', { name, exact: true }).focus();
    await page.keyboard.press('Enter');
    await surface.focus();
  };
  await start('dots');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect(stack.getByRole('button', { name: /dots/ }).last()).toBeVisible();
  await start('line');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press(' ');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press(' ');
  // What it costs and what the cookie waits for it is shown before it is piped.
  await expect(bar.getByText(/^about .* a cookie.*; dry (no|.*) later$/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(stack.getByRole('button', { name: /line/ }).last()).toBeVisible();
  await start('flood on top');
  await page.keyboard.press(' ');
  await page.keyboard.press('Enter');
  await expect(stack.getByRole('button', { name: /flood on top/ }).last()).toBeVisible();
  // Wet work beside every flood is refused at once, with the cure.
  await start('wet drops');
  for (let i = 0; i < 40; i++) await page.keyboard.press('Shift+ArrowUp');
  for (let i = 0; i < 40; i++) await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(page.getByText('That is done in wet icing: begin it on a flood or a bead.')).toBeVisible();
  // A border whose pieces are counted before it is piped, a basket weave all over.
  await stack.getByRole('listitem').first().getByRole('button').last().click();
  await bar.getByRole('button', { name: 'line', exact: true }).click();
  await bar.getByLabel('round an edge').selectOption('scallops');
  await bar.getByRole('button', { name: /Round the edge of .*: \d+ pieces/ }).click();
  await expect(stack.getByRole('button', { name: /scallops/ }).last()).toBeVisible();
  await bar.getByRole('button', { name: 'weave', exact: true }).click();
  await bar.getByRole('button', { name: /All over/ }).click();
  await expect(stack.getByRole('button', { name: /weave/ }).last()).toBeVisible();
  // A picture laid beneath to draw after; what is no picture is said.
  const beneath = page.getByLabel('lay a picture beneath');
  await beneath.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByText('notes.png is no picture this page can read')).toBeVisible();
  await beneath.setInputFiles({
    name: 'leaf.png',
    mimeType: 'image/png',
    buffer: Buffer.from(encode({ width: 20, height: 10, data: new Uint8Array(600).fill(90), channels: 3, depth: 8 })),
  });
  await expect(page.locator('image[data-beneath]')).toBeAttached();
  await page.getByLabel('mirrored').check();
  await page.getByRole('button', { name: 'Take the picture off' }).click();
  await expect(page.locator('image[data-beneath]')).toHaveCount(0);
  // Words the face lacks.
  await bar.getByRole('button', { name: 'letters', exact: true }).click();
  await bar.getByLabel('words').fill('Ωmega');
  await bar.getByRole('button', { name: 'Pipe the words' }).click();
  await expect(bar.getByRole('alert')).toContainText('This face has no “Ω”');
  expect(errors).toEqual([]);
});

test('the same face by keys alone, in at most seventy', async ({ page, request }) => {
  test.setTimeout(120_000);
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await page.getByRole('button', { name: 'round', exact: true }).press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'round' })).toBeVisible();
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  await expect(stack.getByRole('listitem')).toHaveCount(1);
  let actions = 0;
  /** Each key is an action; a word, a number or a colour that is typed or chosen is one. */
  const keys = async (...pressed: readonly string[]) => {
    for (const k of pressed) {
      actions += 1;
      await page.keyboard.press(k);
    }
  };
  const type = async (text: string) => {
    actions += 1;
    if (text.startsWith('#')) await page.locator(':focus').fill(text);
    else await page.keyboard.type(text);
  };
  const rows = (n: number) => expect(stack.getByRole('listitem')).toHaveCount(n);
  // The flood white.
  await keys('p', 'Tab');
  await type('#f6f3ea');
  await page.locator('body').click({ position: { x: 2, y: 2 } });
  // Two eyes of four rings, left and right at once.
  await keys('t', 'w', 'Enter');
  await expect(page.getByRole('application')).toBeFocused();
  await keys('m', '7', 'ArrowDown');
  for (const [i, [size, hex]] of (
    [
      ['14', '#22343c'],
      ['10.5', '#3f7f86'],
      ['6', '#101418'],
      ['2.2', '#ffffff'],
    ] as const
  ).entries()) {
    await keys('b');
    await type(size);
    await keys('Tab');
    await type(hex);
    await keys('Escape', 'Enter');
    await rows(2 + i);
  }
  // A smile in pen, through three points.
  await keys('t', 'p', 'p', 'Enter');
  await expect(page.getByRole('application', { name: /pen/ })).toBeFocused();
  await keys('m', '1', ' ', '2', ' ', '3', 'Enter', 'Enter');
  await rows(6);
  // Cheeks in dust.
  await keys('t', 'd', 'd', 'Enter');
  await expect(page.getByRole('application', { name: /dust/ })).toBeFocused();
  await keys('k');
  await type('#e58f8f');
  await keys('Escape', 'm', '4', 'Enter');
  await rows(7);
  // A name of six letters.
  await keys('t', 'l', 'l', 'Enter');
  await expect(page.getByRole('textbox', { name: 'words' })).toBeFocused();
  await type('Marina');
  await keys('Tab', 'Tab', 'Tab');
  await type('82');
  await keys('Enter');
  await rows(8);
  // A sugared rim.
  await keys('Escape', 's', 's', 'Enter');
  await expect(page.getByRole('application')).toBeFocused();
  await keys('e');
  await rows(9);
  expect(actions).toBeLessThanOrEqual(70);
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const id = designs.find((d) => d.name === 'round')?.id;
  const view = (await (await request.get(`/api/designs/${id}`)).json()) as DesignView;
  expect(view.document.edits.flatMap((e) => (e.type === 'draw' ? [[e.technique, e.strokes.length]] : []))).toEqual([
    ['wet-drop', 2],
    ['wet-drop', 2],
    ['wet-drop', 2],
    ['wet-drop', 2],
    ['pen', 1],
    ['dust', 2],
    ['lettering', expect.any(Number)],
    ['dipped-bead', 1],
  ]);
  await request.delete(`/api/designs/${id}`);
  expect(errors).toEqual([]);
});

test('a leaf is lettered along its edge as a transfer; words are flooded in letters that are areas', async ({ page, request }) => {
  const errors = watchForErrors(page);
  await page.goto('/designs');
  const hand = counted(page);
  await hand.press(page.getByRole('button', { name: 'leaf', exact: true }));
  await expect(page.getByRole('heading', { level: 1, name: 'leaf' })).toBeVisible();
  const bar = page.getByRole('group', { name: /^(Pipe on it|How it is piped)$/ });
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  await hand.press(bar.getByRole('button', { name: 'letters', exact: true }));
  await hand.fill(bar.getByLabel('words'), 'Regatta');
  await hand.choose(bar.getByLabel('face'), 'running');
  await hand.fill(bar.getByLabel(/^capitals/), '6');
  await hand.press(bar.getByLabel(/along the edge of/));
  await hand.fill(bar.getByLabel(/^along it/), '20');
  await hand.press(bar.getByRole('button', { name: 'Pipe the words' }));
  await expect(stack.getByRole('button', { name: /Regatta/ }).last()).toBeVisible();
  await hand.press(page.getByLabel(/a transfer: piped on parchment/));
  expect(hand.actions).toBeLessThanOrEqual(15);
  // Words longer than the edge, and a face that is not there, are said; nothing is lost.
  await bar.getByLabel('words').fill('A long word that no leaf has the edge for, whatever is done');
  await bar.getByRole('button', { name: 'Pipe the words' }).click();
  await expect(bar.getByRole('alert')).toContainText(/mm long and the edge/);
  await bar.getByLabel('words').fill('Ho');
  await bar.getByLabel('face').selectOption('round');
  await bar.getByLabel(/along the edge of/).uncheck();
  await bar.getByRole('button', { name: 'Lay the words' }).click();
  await expect(stack.getByRole('button', { name: /Ho/ }).last()).toBeVisible();
  await expect(bar.getByText(/at their narrowest; 2 mm is the least/)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const leaf = designs.find((d) => d.name === 'leaf');
  const view = (await (await request.get(`/api/designs/${leaf?.id}`)).json()) as DesignView;
  const edits = view.document.edits.filter((e) => e.type === 'draw');
  expect(edits.map((e) => e.type === 'draw' && [e.technique, e.area, e.spells])).toEqual([
    ['lettering', false, 'Regatta'],
    ['flood', true, 'Ho'],
  ]);
  expect(leaf?.transfer).toBe(true);
  await request.delete(`/api/designs/${leaf?.id}`);
  expect(errors).toEqual([]);
});

test('a picture is traced into areas, taken, and planned; what is no picture is said', async ({ page, request }) => {
  test.setTimeout(120_000);
  const errors = watchForErrors(page);
  await page.goto('/designs');
  const bring = page.getByLabel('Trace a picture');
  await bring.setInputFiles({
    name: 'drawing.png',
    mimeType: 'image/png',
    buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"/>'),
  });
  const sheet = page.getByRole('dialog', { name: 'Trace a picture' });
  await expect(sheet.getByRole('alert')).toContainText(/is a drawing, not a picture|is no picture/);
  await sheet.getByRole('button', { name: 'close' }).click();
  const picture = (colourAt: (x: number, y: number) => readonly [number, number, number]) => {
    const data = new Uint8Array(300 * 300 * 3);
    for (let y = 0; y < 300; y++) for (let x = 0; x < 300; x++) data.set(colourAt(x, y), 3 * (y * 300 + x));
    return Buffer.from(encode({ width: 300, height: 300, data, channels: 3, depth: 8 }));
  };
  await bring.setInputFiles({ name: 'grey.png', mimeType: 'image/png', buffer: picture(() => [120, 120, 120]) });
  await expect(sheet.getByRole('alert')).toContainText('all one colour');
  await sheet.getByRole('button', { name: 'close' }).click();

  // A sun over a sea, on white.
  const scene = picture((x, y) =>
    Math.hypot(x - 150, y - 110) < 60 ? [242, 193, 78] : y > 150 && y < 260 && x > 20 && x < 280 ? [31, 63, 107] : [255, 255, 255],
  );
  await bring.setInputFiles({ name: 'sunrise.png', mimeType: 'image/png', buffer: scene });
  await expect(sheet.getByText('2 areas. The picture stays on this machine.')).toBeVisible({ timeout: 30_000 });
  expect(await violationsOf(page)).toEqual([]);
  await sheet.getByLabel('called').fill('Sunrise');
  await sheet.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sunrise' })).toBeVisible();
  await expect(page.getByRole('list', { name: 'Parts in the order they are piped' }).getByRole('listitem')).toHaveCount(2);
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const order = await sendOrder(request, {
    name: 'Suns',
    designs: [{ designId: designs.find((d) => d.name === 'Sunrise')?.id, count: 6 }],
    trays: [{ id: 'A', places: 8 }],
  });
  expect((await request.post(`/api/orders/${order.id}/plan`, { timeout: 60_000 })).ok()).toBe(true);
  expect(errors).toEqual([]);
});

test('a cutter photographed beside a card becomes a shape of true size; what is nothing is said', async ({ page, request }) => {
  const errors = watchForErrors(page);
  await page.goto('/designs');
  // Seen from straight above at five pixels a millimetre: a card, and an oval of 80 by 60 mm.
  const [w, h] = [900, 640];
  const data = new Uint8Array(w * h * 3);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [mx, my] = [x / 5, y / 5];
      const isCard = mx > 10 && mx < 95.6 && my > 68 && my < 121.98;
      const isOval = ((mx - 130) / 40) ** 2 + ((my - 40) / 30) ** 2 < 1;
      data.set(isCard ? [40, 88, 140] : isOval ? [201, 150, 92] : [230, 228, 222 - x / 60], 3 * (y * w + x));
    }
  const photo = Buffer.from(encode({ width: w, height: h, data, channels: 3, depth: 8 }));
  const bring = page.getByLabel('Photograph of a cutter');
  await bring.setInputFiles({ name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') });
  const sheet = page.getByRole('dialog', { name: 'A cutter photographed' });
  await expect(sheet.getByRole('alert')).toContainText('notes.jpg is no picture');
  await sheet.getByRole('button', { name: 'close' }).click();
  await bring.setInputFiles({ name: 'oval.png', mimeType: 'image/png', buffer: photo });
  const drag = async (name: string, mx: number, my: number) => {
    const box = await sheet.getByRole('group', { name: /The photograph/ }).boundingBox();
    const point = await sheet.getByRole('slider', { name }).boundingBox();
    if (!box || !point) throw new Error('there is no photograph');
    const scale = Math.min(box.width / w, box.height / h);
    await page.mouse.move(point.x + point.width / 2, point.y + point.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + (mx * 5 - w / 2) * scale, box.y + box.height / 2 + (my * 5 - h / 2) * scale, {
      steps: 5,
    });
    await page.mouse.up();
  };
  await drag('first corner', 10, 68);
  await drag('second corner', 95.6, 68);
  await drag('third corner', 95.6, 121.98);
  await drag('fourth corner', 10, 121.98);
  await sheet.getByRole('slider', { name: 'fourth corner' }).press('ArrowRight');
  await expect(sheet.getByText(/(79|80|81)(\.\d)? mm wide, (59|60|61)(\.\d)? mm high/)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await sheet.getByLabel('called').fill('Mussel');
  await sheet.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Mussel' })).toBeVisible();
  await expect(page.getByRole('img', { name: /Mussel, (79|80|81) mm wide/ })).toBeVisible();
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  await request.delete(`/api/designs/${designs.find((d) => d.name === 'Mussel')?.id}`);
  expect(errors).toEqual([]);
});
