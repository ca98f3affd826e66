import type { Mesh } from '@kelp/core';
import { buoy } from './buoy.js';
import { bollards, gatePosts, lampPosts, pier } from './pier.js';
import { bowRoller, cleat, crate, raft } from './raft.js';
import { stair, stairRail } from './stair.js';
import { houseRoof, houseWalls, winch } from './winch-house.js';

export interface PropSource {
  name: string;
  colour: string;
  mesh: Mesh;
}

/** All props of the demo, each in its own place; the buoy at the origin, to be placed by the project. */
export const propSources = (): PropSource[] => [
  { name: 'Pier', colour: '#c9c1ab', mesh: pier() },
  { name: 'Stair', colour: '#bdb49b', mesh: stair() },
  { name: 'Stair rail', colour: '#7d9490', mesh: stairRail() },
  { name: 'Bollards', colour: '#5f7576', mesh: bollards() },
  { name: 'Lamp posts', colour: '#86a09d', mesh: lampPosts() },
  { name: 'Gate posts', colour: '#7f968f', mesh: gatePosts() },
  { name: 'Winch house', colour: '#a9bfb4', mesh: houseWalls() },
  { name: 'Winch house roof', colour: '#5f7a70', mesh: houseRoof() },
  { name: 'Winch', colour: '#56706e', mesh: winch() },
  { name: 'Work raft', colour: '#d3ccb8', mesh: raft() },
  { name: 'Bow roller', colour: '#7d8f8f', mesh: bowRoller() },
  { name: 'Cleat', colour: '#6e8081', mesh: cleat() },
  { name: 'Crate', colour: '#a99a74', mesh: crate() },
  { name: 'Buoy', colour: '#d8902f', mesh: buoy() },
];
