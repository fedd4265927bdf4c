import { describe, expect, it } from 'vitest';
import {
  plainFinish,
  plainSurface,
  type Finish,
  type PictureRef,
  type Surface,
} from '../../src/document/index.ts';
import { SURFACE } from '../../src/document/parameters.ts';
import { OPEN_PBR } from '../../src/exchange/openPbr.ts';
import { MaterialXError } from '../../src/exchange/materialNodes.ts';
import { readMaterialX } from '../../src/exchange/readMaterialX.ts';
import { writeMaterialX } from '../../src/exchange/writeMaterialX.ts';
import { openMaterialFile, packMaterial, paintedPng, pictureNamed } from '../../src/exchange/materialFile.ts';
import { READY_FINISHES, readyFinish } from '../../src/finish/readyFinishes.ts';
import { fed, over } from '../../src/finish/ready/ready.ts';

let made = 0;
const newId = () => `made${++made}`;
const nothing = () => null;
const finish = (surface: Partial<Surface>, more: Partial<Finish> = {}) =>
  plainFinish({ id: 'f', name: 'Quay & "Crane"', surface: plainSurface(surface), ...more });
/** Without the finish that lies in it whole, as a stranger would write it. */
const bare = (xml: string) => xml.replace(/\s+wemlox_finish="[^"]*"/, '');
const withoutIds = (f: Finish) =>
  JSON.parse(JSON.stringify(f, (key, v) => (key === 'id' && typeof v === 'string' ? '' : v))) as Finish;

describe('MaterialX', () => {
  it('gives back every ready finish as it was', () => {
    for (const one of READY_FINISHES) {
      const { xml } = writeMaterialX(one);
      const { finishes, unread } = readMaterialX(xml, nothing, newId);
      expect(unread).toEqual([]);
      expect(finishes).toEqual([{ ...one, id: finishes[0]!.id }]);
    }
  });

  it('says every parameter of OpenPBR in its own nodes, and reads them back', () => {
    const surface = plainSurface({
      base_weight: 0.9,
      base_color: [0.7, 0.2, 0.1],
      base_diffuse_roughness: 0.3,
      base_metalness: 0.25,
      specular_weight: 0.8,
      specular_color: [0.9, 0.8, 0.7],
      specular_roughness: 0.41,
      specular_ior: 1.61,
      specular_roughness_anisotropy: 0.4,
      specular_rotation: 0.7,
      transmission_weight: 0.5,
      transmission_color: [0.4, 0.6, 0.9],
      transmission_depth: 0.03,
      transmission_scatter: [0.1, 0.2, 0.3],
      transmission_scatter_anisotropy: 0.2,
      transmission_dispersion_scale: 0.5,
      transmission_dispersion_abbe_number: 33,
      subsurface_weight: 0.4,
      subsurface_color: [0.9, 0.5, 0.4],
      subsurface_radius: 0.004,
      subsurface_radius_scale: [1, 0.4, 0.2],
      subsurface_scatter_anisotropy: -0.3,
      fuzz_weight: 0.3,
      fuzz_color: [0.2, 0.3, 0.4],
      fuzz_roughness: 0.6,
      coat_weight: 0.7,
      coat_color: [0.8, 0.9, 0.95],
      coat_roughness: 0.12,
      coat_roughness_anisotropy: 0.35,
      coat_ior: 1.45,
      coat_darkening: 0.6,
      thin_film_weight: 0.5,
      thin_film_thickness: 0.42,
      thin_film_ior: 1.7,
      emission_luminance: 120,
      emission_color: [1, 0.4, 0.1],
      geometry_opacity: 0.85,
      geometry_thin_walled: false,
    });
    const { xml, approximated } = writeMaterialX(finish(surface));
    expect(approximated).toEqual([]);
    for (const { name } of OPEN_PBR) expect(xml).toContain(`name="${name}"`);
    const { finishes, unread } = readMaterialX(bare(xml), nothing, newId);
    expect(unread).toEqual([]);
    expect(finishes[0]!.name).toBe('Quay & "Crane"');
    for (const [key, { kind }] of Object.entries(SURFACE)) {
      const [was, is] = [surface[key as keyof Surface], finishes[0]!.surface[key as keyof Surface]];
      if (kind === 'number') expect(is, key).toBeCloseTo(was as number, 6);
      else if (kind === 'colour')
        (was as number[]).forEach((v, c) => expect((is as number[])[c], key).toBeCloseTo(v, 6));
      else expect(is, key).toEqual(was);
    }
  });

  it('says coats, feeds by angle and pictures in nodes, and reads them back', () => {
    const picture: PictureRef = { source: 'asset', id: 'ab'.repeat(32), name: 'Scan of the hull.png' };
    const one = finish(
      {},
      {
        feeds: [
          fed(
            'base_color',
            'angle',
            [
              [0, [0.8, 0.1, 0.1]],
              [0.4, [0.1, 0.5, 0.9]],
              [1, [0, 0, 0.2]],
            ],
            { blend: 'linear', shape: 'fresnel' },
          ),
          fed(
            'specular_roughness',
            'picture',
            [
              [0, 0.1],
              [1, 0.6],
            ],
            { picture, take: 'light', blend: 'linear', coding: 'numbers', lay: 'letter' },
          ),
        ],
        coats: [
          over('c', 'Coat 1', 1, { base_metalness: 1 }, [
            fed(
              'cover',
              'angle',
              [
                [0, 0],
                [1, 1],
              ],
              { blend: 'linear', from: 0.2, to: 0.9 },
            ),
          ]),
          over('d', 'Coat 2', 0.25, { base_color: [0, 0, 0] }),
        ],
      },
    );
    const { xml, pictures, approximated } = writeMaterialX(one);
    expect(pictures).toEqual([{ name: 'Scan_of_the_hull_1.png', picture }]);
    expect(approximated).toEqual(['Scan of the hull.png lies over the texture coordinates from 0 to 1']);
    const got = readMaterialX(bare(xml), (file) => (file === pictures[0]!.name ? picture : null), newId);
    expect(got.unread).toEqual([]);
    expect(withoutIds({ ...got.finishes[0]!, family: one.family })).toEqual(withoutIds(one));
  });

  it('reads the nodes, not the finish within, once somebody has changed them', () => {
    const { xml } = writeMaterialX(readyFinish('funnel-red'));
    const changed = xml.replace(/(name="coat_roughness" type="float" value=")[^"]*/, '$10.5');
    expect(changed).not.toBe(xml);
    expect(readMaterialX(changed, nothing, newId).finishes[0]!.surface.coat_roughness).toBe(0.5);
  });

  it('tells what it says otherwise', () => {
    const told = (id: string) => writeMaterialX(readyFinish(id)).approximated.join('\n');
    expect(told('leaf-gold')).toMatch(/measured metal is given by its colours/);
    expect(told('neon-gas')).toMatch(/gas is given by the colour/);
    expect(told('saloon-marble')).toMatch(/turbulence_1\.png shows \d+ mm/);
    const rising = readyFinish('funnel-red');
    rising.feeds = [
      fed('base_color', 'up', [
        [0, [1, 0, 0]],
        [1, [0, 0, 1]],
      ]),
    ];
    expect(writeMaterialX(rising).approximated.join()).toMatch(/Base colour is the mean/);
    const gold = readMaterialX(bare(writeMaterialX(readyFinish('leaf-gold')).xml), nothing, newId)
      .finishes[0]!;
    expect(gold.surface.base_metal).toBe('none');
    expect(gold.surface.base_color[0]! / gold.surface.base_color[2]!).toBeGreaterThan(2);
  });

  it('reads Standard Surfaces, colours by their spaces, and node graphs, and tells the rest', () => {
    const xml = `<?xml version="1.0"?>
<materialx version="1.38" colorspace="acescg">
  <nodegraph name="NG">
    <noise3d name="n" type="float"/>
    <constant name="k" type="float"><input name="value" type="float" value="0.35"/></constant>
    <output name="rough" type="float" nodename="k"/>
    <output name="spots" type="float" nodename="n"/>
  </nodegraph>
  <standard_surface name="SR_hull" type="surfaceshader">
    <input name="base_color" type="color3" value="0.5, 0.5, 0.5" colorspace="srgb_texture"/>
    <input name="specular_roughness" type="float" nodegraph="NG" output="rough"/>
    <input name="coat" type="float" nodegraph="NG" output="spots"/>
    <input name="specular_IOR" type="float" value="1.6"/>
    <input name="thin_film_thickness" type="float" value="400"/>
    <input name="coat_affect_roughness" type="float" value="0.5"/>
    <input name="emission" type="float" value="2"/>
    <input name="emission_color" type="color3" value="0.18, 0.18, 0.18"/>
  </standard_surface>
  <surfacematerial name="M_hull" type="material"><input name="surfaceshader" type="surfaceshader" nodename="SR_hull"/></surfacematerial>
</materialx>`;
    const { finishes, unread } = readMaterialX(xml, nothing, newId);
    const { surface, name } = finishes[0]!;
    expect(name).toBe('hull');
    expect(surface.base_color[1]).toBeCloseTo(0.2140411, 5);
    // a grey of one space is that grey of the other
    for (const v of surface.emission_color) expect(v).toBeCloseTo(0.18, 4);
    expect(surface).toMatchObject({ specular_roughness: 0.35, specular_ior: 1.6, emission_luminance: 2 });
    expect(surface.thin_film_thickness).toBeCloseTo(0.4, 9);
    expect(unread).toEqual([
      'hull: coat is fed by noise3d, which is not read',
      'hull: coat_affect_roughness has no counterpart',
    ]);
  });

  it('has pictures of noises in their places, with the stops over them as nodes', () => {
    const marble = readyFinish('saloon-marble');
    const { xml, patterns } = writeMaterialX(marble);
    expect(patterns.map((p) => p.axis.source)).toContain('turbulence');
    for (const { name, side } of patterns) {
      expect(xml).toContain(`value="${name}"`);
      expect(side).toBeGreaterThan(0.001);
    }
    const got = readMaterialX(bare(xml), () => ({ source: 'asset', id: 'p', name: 'p' }), newId).finishes[0]!;
    const colour = got.feeds.find((e) => e.parameter === 'base_color')!;
    expect(colour).toMatchObject({ source: 'picture', take: 'light', coding: 'numbers' });
    expect(colour.stops.length).toBeGreaterThan(1);
  });

  it('travels with its pictures in a zip', () => {
    const { xml, pictures } = writeMaterialX(readyFinish('weathered-hull'));
    expect(pictures.map((p) => p.picture.source)).toEqual(['painted']);
    const png = paintedPng(pictures[0]!.picture.id);
    const packed = packMaterial('Weathered hull', xml, new Map([[pictures[0]!.name, png]]));
    const opened = openMaterialFile(packed);
    expect(opened.text).toBe(xml);
    expect(Buffer.from(png).equals(opened.pictures.get(pictures[0]!.name)!)).toBe(true);
    expect(pictureNamed(opened.pictures, `textures/${pictures[0]!.name}`)).toBe(
      opened.pictures.get(pictures[0]!.name),
    );
    const asset: PictureRef = { source: 'asset', id: 'cd'.repeat(32), name: 'hull.png' };
    const got = readMaterialX(
      bare(xml),
      (path) => pictureNamed(new Map([[pictures[0]!.name, asset]]), path),
      newId,
    );
    expect(got.finishes[0]!.feeds.map((f) => [f.parameter, f.picture.id])).toContainEqual([
      'base_color',
      asset.id,
    ]);
    expect(() => openMaterialFile(packed.slice(0, 60))).toThrow();
    expect(openMaterialFile(new TextEncoder().encode(xml)).text).toBe(xml);
  });

  it('refuses in words what it cannot read', () => {
    const refused = (xml: string) => () => readMaterialX(xml, nothing, newId);
    expect(refused('')).toThrow(MaterialXError);
    expect(
      refused(`<materialx>${'<nodegraph>'.repeat(20_000)}${'</nodegraph>'.repeat(20_000)}</materialx>`),
    ).toThrow(MaterialXError);
    // axes that lead round in a circle, and numbers that are none, are told
    const odd = readMaterialX(
      `<materialx><remap name="r" type="float"><input name="in" nodename="r"/></remap>
      <mix name="m" type="float"><input name="fg" type="float" value="1"/><input name="bg" type="float" nodename="m"/><input name="mix" nodename="c"/></mix>
      <clamp name="c"><input name="in" nodename="d"/></clamp><divide name="d"><input name="in1" nodename="s"/></divide>
      <subtract name="s"><input name="in1" nodename="r"/></subtract>
      <open_pbr_surface name="a"><input name="base_metalness" type="float" nodename="m"/><input name="coat_weight" type="float" value="1e999"/></open_pbr_surface></materialx>`,
      nothing,
      newId,
    );
    expect(odd.unread).toEqual([
      'a: base_metalness is fed by mix, which is not read',
      'a: coat_weight is "1e999", which is no number',
    ]);
    expect(refused('<materialx version="1.39">')).toThrow(/not well-formed/);
    expect(refused('<svg/>')).toThrow(/no <materialx>/);
    expect(refused('<materialx version="1.39"/>')).toThrow(/no material/);
    expect(refused('<!DOCTYPE x [<!ENTITY a "b">]><materialx/>')).toThrow(/entities/);
    expect(
      refused(
        '<materialx><surfacematerial name="M"><input name="surfaceshader" nodename="a"/></surfacematerial><mix name="a"><input name="fg" nodename="a"/><input name="bg" nodename="a"/></mix></materialx>',
      ),
    ).toThrow(MaterialXError);
    expect(
      refused(
        '<materialx><dielectric_bsdf name="g"/><surfacematerial name="M"><input name="surfaceshader" nodename="g"/></surfacematerial></materialx>',
      ),
    ).toThrow(/dielectric_bsdf is not read/);
  });
});
