import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
const base = 'http://localhost:4611';
const jobs = process.argv.slice(2);
for (const j of jobs) { const [name, path, h] = j.split('='); if (h) await p.setViewportSize({width:1280,height:+h}); await p.goto(base + path); await p.waitForTimeout(2500); await p.screenshot({ path: `/tmp/shot-${name}.png` }); console.log(name, p.url()); }
await b.close();
