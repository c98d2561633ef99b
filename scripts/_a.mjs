import { open, demo } from './_look.mjs';
const {browser,page}=await open(); await demo(page);
await page.keyboard.press('?'); await page.waitForTimeout(400);
await page.screenshot({path:'/tmp/shots/a3.png'});
await browser.close();
