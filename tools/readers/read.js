// Reads our files with readers of others and holds what they see against our own rows of values.
// Usage: node read.js FOLDER NAME...   (NAME.csv, NAME.musicxml, NAME.mxl and NAME.mid in FOLDER)
'use strict';
const fs = require('fs');
const path = require('path');
const musicxml = require('musicxml-io');
const {Midi} = require('@tonejs/midi');

const [folder, ...names] = process.argv.slice(2);
const kSteps = {C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11};
let wrong = 0;

function expectSame(what, seen, ours) {
  const a = JSON.stringify(seen);
  const b = JSON.stringify(ours);
  if (a === b) return;
  ++wrong;
  const at = [...a].findIndex((c, i) => c !== b[i]);
  console.error(`${what}: ${a.slice(Math.max(0, at - 40), at + 60)} is not ${b.slice(Math.max(0, at - 40), at + 60)}`);
}

function rows(name) {
  const [head, ...lines] = fs.readFileSync(path.join(folder, name + '.csv'), 'utf8').trim().split('\r\n');
  const columns = head.split(',');
  return lines.map(line => Object.fromEntries(line.split(',').map((v, i) => [columns[i], v])));
}

const midiOf = pitch => kSteps[pitch.step] + (pitch.alter || 0) + 12 * (pitch.octave + 1);
const technical = (note, type) =>
    (note.notations || []).filter(n => n.type === 'technical' && n.technical === type);

// What the tab staff says: pitch, string, fret and finger of every note that is not tied on.
function tabNotes(score) {
  const said = [];
  for (const measure of score.parts[0].measures)
    for (const note of measure.entries) {
      if (note.type !== 'note' || note.staff !== 2 || !note.pitch) continue;
      if ((note.ties || (note.tie ? [note.tie] : [])).some(t => t.type === 'stop')) continue;
      const one = type => technical(note, type)[0] || {};
      said.push([midiOf(note.pitch), one('string').string, one('fret').fret,
                 String(one('fingering').fingering || one('fingering').text || '')].join('/'));
    }
  return said.sort();
}

function checkScore(name, score) {
  const problems = musicxml.validate(score);
  expectSame(name + ' is valid', problems.errors, []);
  const ours = rows(name).map(r => [r.midi, r.string, r.fret, /^[1-4T]$/.test(r.finger) ? r.finger : ''].join('/')).sort();
  expectSame(name + ' notes', tabNotes(score), ours);
}

function checkMidi(name) {
  const midi = new Midi(fs.readFileSync(path.join(folder, name + '.mid')));
  const seen = midi.tracks.flatMap(t => t.notes.map(n => `${n.midi}/${t.channel}`)).sort();
  const channel = r => r.string === '' ? 0 : Number(r.string) <= 9 ? r.string - 1 : r.string;
  expectSame(name + '.mid notes', seen, rows(name).map(r => `${r.midi}/${channel(r)}`).sort());
}

for (const name of names) {
  checkScore(name, musicxml.parse(fs.readFileSync(path.join(folder, name + '.musicxml'), 'utf8')));
  const unpacked = musicxml.parseAuto
      ? musicxml.parseAuto(fs.readFileSync(path.join(folder, name + '.mxl')))
      : musicxml.parse(musicxml.decodeBuffer(fs.readFileSync(path.join(folder, name + '.mxl'))));
  checkScore(name, unpacked);
  checkMidi(name);
}
console.log(wrong === 0 ? `${names.length} pieces read alike by readers of others` : `${wrong} differences`);
process.exit(wrong === 0 ? 0 : 1);
