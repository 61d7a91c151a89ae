// Reads a building model, a scene or a printer's file with readers that are not Kervo's, and prints what it finds as
// lines of "key value":
//   volume NAME V     of each body by its triangles, in the cube of the file's unit: m³ in .ifc and .glb, mm³ in .3mf
//   color NAME C      its colour, #rrggbb; of several the first
//   storey NAME H     height of a storey, m
import { readFileSync } from "node:fs";
import { extname } from "node:path";

/// Six times the signed volume under each triangle, summed.
function volumeOf(points, corners) {
  let sum = 0;
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const at = 3 * corners[i + k];
      return [points[at], points[at + 1], points[at + 2]];
    });
    sum +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
}

function hex(parts) {
  return "#" + parts.map((part) => Math.round(255 * part).toString(16).padStart(2, "0")).join("");
}

const found = { volumes: new Map(), colors: new Map(), storeys: new Map() };

function add(name, volume, color) {
  found.volumes.set(name, (found.volumes.get(name) ?? 0) + volume);
  if (color && !found.colors.has(name)) found.colors.set(name, color);
}

async function readIfc(bytes) {
  const { IfcAPI, IFCBUILDINGSTOREY } = await import("web-ifc");
  const api = new IfcAPI();
  await api.Init();
  const model = api.OpenModel(new Uint8Array(bytes));
  if (model < 0) throw new Error("no model");
  const storeys = api.GetLineIDsWithType(model, IFCBUILDINGSTOREY);
  for (let i = 0; i < storeys.size(); ++i) {
    const line = api.GetLine(model, storeys.get(i));
    found.storeys.set(line.Name.value, line.Elevation.value);
  }
  api.StreamAllMeshes(model, (mesh) => {
    const name = api.GetLine(model, mesh.expressID).Name?.value ?? "";
    for (let i = 0; i < mesh.geometries.size(); ++i) {
      const placed = mesh.geometries.get(i);
      const geometry = api.GetGeometry(model, placed.geometryExpressID);
      const data = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      const corners = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
      const m = placed.flatTransformation;
      const points = [];
      for (let at = 0; at < data.length; at += 6)
        for (let row = 0; row < 3; ++row)
          points.push(m[row] * data[at] + m[4 + row] * data[at + 1] + m[8 + row] * data[at + 2] + m[12 + row]);
      add(name, volumeOf(points, corners), hex([placed.color.x, placed.color.y, placed.color.z]));
    }
  });
}

/// Of a scene as three.js has it. Its colours are linear; those of a file are sRGB.
function addScene(scene) {
  scene.updateMatrixWorld(true);
  scene.traverse((node) => {
    if (!node.isMesh) return;
    const position = node.geometry.getAttribute("position");
    const points = [];
    for (let i = 0; i < position.count; ++i) {
      const at = node.localToWorld(new THREE.Vector3().fromBufferAttribute(position, i));
      points.push(at.x, at.y, at.z);
    }
    const corners = node.geometry.index ? Array.from(node.geometry.index.array) : points.map((_, i) => i).slice(0, position.count);
    // Readers make a name one of their own where they put several meshes under one node.
    const called = node.userData.name || node.name || node.parent?.userData.name || node.parent?.name || "";
    const name = called.replaceAll("&amp;", "&"); // linkedom leaves these in attributes as they are
    const material = Array.isArray(node.material) ? node.material[0] : node.material;
    add(name, volumeOf(points, corners), "#" + material.color.getHexString(THREE.SRGBColorSpace));
  });
}

let THREE = null;

async function readGlb(bytes) {
  const { GLTFLoader } = await import("three/addons/loaders/GLTFLoader.js");
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
  addScene((await new GLTFLoader().parseAsync(buffer, "")).scene);
}

async function read3mf(bytes) {
  const { DOMParser } = await import("linkedom");
  globalThis.DOMParser = DOMParser;
  const { ThreeMFLoader } = await import("three/addons/loaders/3MFLoader.js");
  addScene(new ThreeMFLoader().parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength)));
}

const path = process.argv[2];
const bytes = readFileSync(path);
const readers = { ".ifc": readIfc, ".glb": readGlb, ".3mf": read3mf };
if (!readers[extname(path)]) throw new Error(`no reader for ${path}`);
globalThis.self ??= globalThis;
if (extname(path) !== ".ifc") THREE = await import("three");
await readers[extname(path)](bytes);
for (const [name, volume] of found.volumes) console.log(`volume ${name} ${volume}`);
for (const [name, color] of found.colors) console.log(`color ${name} ${color}`);
for (const [name, height] of found.storeys) console.log(`storey ${name} ${height}`);
