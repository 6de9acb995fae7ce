import { expect, it } from 'vitest'
import type { GltfJson } from '../read/gltfSchema'
import { measureOrigin } from './measureOrigin'

const of = (json: object) => measureOrigin(json as unknown as GltfJson)

it('reads copyright, and author, terms and source out of XMP with lists and languages', () => {
  expect(of({ asset: { copyright: ' © A. Wright ' } })).toMatchObject({ copyright: '© A. Wright', terms: '' })
  expect(
    of({
      asset: {},
      extensions: {
        KHR_xmp_json_ld: {
          packets: [
            {
              '@context': { dc: 'http://purl.org/dc/elements/1.1/' },
              'dc:creator': { '@list': ['M. Quay'] },
              'dc:rights': {
                '@type': 'rdf:Alt',
                'rdf:_1': { '@language': 'en-US', '@value': 'with a credit' },
              },
              'dc:source': 'an archive',
            },
          ],
        },
      },
    }),
  ).toEqual({ copyright: '', author: 'M. Quay', terms: 'with a credit', source: 'an archive', link: '' })
})
it('says nothing of a file that says nothing, whatever stands in its place', () => {
  expect(of({ asset: {} })).toBeNull()
  expect(of({ asset: { copyright: 7 }, extensions: { KHR_xmp_json_ld: { packets: 'x' } } })).toBeNull()
})
