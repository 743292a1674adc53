import { chromium } from "@playwright/test";
import { readFileSync } from "node:fs";
const steps = await import(process.argv[2]);
const args = ["--no-sandbox","--use-gl=angle","--use-angle=swiftshader","--enable-unsafe-swiftshader","--ignore-gpu-blocklist"];
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args });
const page = await b.newPage({ viewport: { width: 1280, height: 800 } });
page.on("pageerror", (e) => console.log("PAGEERROR", e.message));
page.on("console", (m) => { if (m.type()==="error") console.log("CONSOLE", m.text().slice(0,300)); });
const open = async (id="gullhaven-regatta") => { await page.goto("http://localhost:3160/"); await page.getByRole("list", { name: "Scenes" }).getByRole("listitem").first().waitFor(); await page.goto(`http://localhost:3160/scene/${id}`); await page.waitForFunction(() => document.querySelector('[data-testid=counts]')?.getAttribute('data-ready')==='true', null, {timeout: 90000}); };
const choose = (d) => page.getByRole("button", { name: new RegExp(`^${d}`) }).first().click();
const shot = async (n, wait=1500) => { await page.waitForTimeout(wait); await page.screenshot({ path: `/tmp/look/${n}.png` }); };
const counts = () => page.getByTestId("counts").textContent();
const enter = async (label, text) => { const f = page.getByRole("textbox", { name: label, exact: true }); await f.fill(text); await f.press("Enter"); };
try { await steps.default({ page, open, choose, shot, counts, enter }); } catch (e) { console.log("FAILED", e.message.slice(0,800)); await page.screenshot({ path: "/tmp/look/failed.png" }); }
await b.close();
