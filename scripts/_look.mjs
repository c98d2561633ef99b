import { chromium } from '@playwright/test';
export const base='http://localhost:3300';
export async function open(){
  const browser = await chromium.launch({ executablePath:'/usr/bin/chromium', args: ['--no-sandbox','--use-gl=angle','--use-angle=swiftshader','--enable-unsafe-swiftshader','--ignore-gpu-blocklist'] });
  const context = await browser.newContext({ viewport:{width:1280,height:800}, reducedMotion:'reduce' });
  await context.addInitScript(() => Object.defineProperty(navigator,'webdriver',{get:()=>false}));
  const page = await context.newPage();
  page.on('pageerror', e=>console.log('PAGEERROR',String(e).slice(0,300)));
  page.on('console', m=>m.type()==='error'&&console.log('CONSOLE',m.text().slice(0,200)));
  return {browser,page};
}
export async function demo(page){ await page.goto(base); await page.getByRole('button',{name:/Open the demo kit/}).click(); await page.getByRole('application').waitFor(); await page.waitForTimeout(2500);}
