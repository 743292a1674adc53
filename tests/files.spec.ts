/** Files of all kinds are brought in together, shown, undone in one step, and leave as they came. */
import { expect, test } from "./kept";
import { Document, WebIO } from "@gltf-transform/core";
import { strToU8, zipSync } from "fflate";
import { boardWithKtx2, makeGlb, packedGlb, PIXEL } from "../src/core/files/testing";
import { newScene } from "./table";

const file = (name: string, bytes: Uint8Array | string) => ({
  name,
  mimeType: "application/octet-stream",
  buffer: Buffer.from(typeof bytes === "string" ? strToU8(bytes) : bytes),
});

const document = async () => new WebIO().readBinary(await makeGlb());

async function parted(name: string) {
  const { json, resources } = await new WebIO().writeJSON(await document(), { basename: name });
  return { json: JSON.stringify(json), bin: Object.entries(resources).map(([path, bytes]) => file(path, bytes)) };
}

test("meshes in ten kinds of files come in at once, are one step to undo, and each can be seen", async ({ page }) => {
  await newScene(page);
  const crate = await parted("crate");
  const oar = await parted("oar");
  const zip = zipSync({ "oar.gltf": strToU8(oar.json), [oar.bin[0].name]: oar.bin[0].buffer });
  const cube =
    "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_index\nend_header\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n4 0 1 2 3\n";
  const facet =
    "solid a\nfacet normal 0 0 1 outer loop vertex 0 0 0 vertex 1 0 0 vertex 0 1 0 endloop endfacet\nendsolid";
  await page
    .getByTestId("prop-files")
    .setInputFiles([
      file("plain.glb", await makeGlb()),
      file("draco.glb", await packedGlb(await document(), "draco")),
      file("meshopt.glb", await packedGlb(await document(), "meshopt")),
      file("board.glb", await boardWithKtx2(30, 60, 220)),
      file("crate.gltf", crate.json),
      ...crate.bin,
      file("oars.zip", zip),
      file(
        "sign.obj",
        "mtllib sign.mtl\nusemtl S\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nf 1/1 2/1 3/1 4/1\nl 1 2\n",
      ),
      file("sign.mtl", "newmtl S\nmap_Kd sign.png\n"),
      file("sign.png", PIXEL),
      file("float.stl", facet),
      file("tile.ply", cube),
      file("broken.glb", (await makeGlb()).slice(0, 200)),
    ]);
  const basket = page.getByRole("complementary", { name: "Basket" });
  await expect(page.getByText("9 props are in the basket.")).toBeVisible();
  await expect(page.getByText(/“broken.glb” is cut short/)).toBeVisible();
  for (const name of ["Plain", "Draco", "Meshopt", "Board", "Crate", "Oar", "Sign", "Float", "Tile"])
    await expect(basket.getByRole("button", { name: new RegExp(`^${name}`) })).toBeVisible();
  // The board's picture is the blue that its KTX2 texture holds.
  await expect
    .poll(async () =>
      basket.getByRole("button", { name: /^Board/ }).evaluate(async (button) => {
        const image = button.querySelector("img");
        if (!image) return "no picture";
        await image.decode();
        const canvas = new OffscreenCanvas(image.naturalWidth, image.naturalHeight);
        const pen = canvas.getContext("2d")!;
        pen.drawImage(image, 0, 0);
        const [r, g, b, a] = pen.getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data;
        return a > 200 && b > 2 * r && b > 1.5 * g ? "blue" : `${r} ${g} ${b} ${a}`;
      }),
    )
    .toBe("blue");
  await page.keyboard.press("Control+z");
  await expect(basket.getByRole("button", { name: /^Plain/ })).toBeHidden();
  await expect(basket.getByRole("button", { name: /^Tile/ })).toBeHidden();
  await page.keyboard.press("Control+Shift+z");
  await expect(basket.getByRole("button", { name: /^Oar/ })).toBeVisible();
});

test("a long reading says how far it is, and Stop lets go of the rest", async ({ page }) => {
  await newScene(page);
  const big = new Document();
  const n = 60_000;
  const position = Float32Array.from({ length: 9 * n }, (_, i) => ((i * 7919) % 1000) / 100);
  const buffer = big.createBuffer();
  const accessor = big.createAccessor().setType("VEC3").setArray(position).setBuffer(buffer);
  const mesh = big.createMesh("Heap").addPrimitive(big.createPrimitive().setAttribute("POSITION", accessor));
  big.createScene().addChild(big.createNode("Heap").setMesh(mesh));
  const bytes = await new WebIO().writeBinary(big);
  await page.getByTestId("prop-files").setInputFiles(Array.from({ length: 8 }, (_, k) => file(`heap ${k}.glb`, bytes)));
  await expect(page.getByText(/Bringing in \d+ of 8: “heap \d+.glb” …/)).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText(/Stopped: \d+ of 8 were brought in|“heap 0.glb” was not brought in/)).toBeVisible();
  await page.getByTestId("prop-files").setInputFiles(file("after.glb", await makeGlb()));
  await expect(page.getByText("“After” is in the basket.")).toBeVisible();
});
