import { Document } from '@gltf-transform/core'
import { expect, it } from 'vitest'
import { hasOwnName, strays } from './strays'

it.each([
  ['Empty.003', false],
  ['RootNode', false],
  ['group12', false],
  ['Object_Null', true],
  ['', false],
  ['scene_light_1', false],
  ['grip', true],
  ['lamp_socket', true],
  ['POINTING_POSE', true],
  ['索具', true],
])('%s is a name that somebody gave: %s', (name, own) => {
  expect(hasOwnName(new Document().createNode(name))).toBe(own)
})

it('an empty node with a name of its own is no stray, nor is what holds it', () => {
  const document = new Document()
  const scene = document.createScene()
  const rig = document.createNode('Group').addChild(document.createNode('oar_socket'))
  scene.addChild(rig).addChild(document.createNode('Empty')).addChild(document.createNode('Null.001'))
  expect(strays(document).map((s) => s.node)).toEqual(['Empty', 'Null.001'])
})
