/**
 * Terms as they are shown beside the stages and in messages, each with what it means. The page opens an entry
 * by the “?” beside its term; `npm run docs` writes docs/glossary.md from them.
 */
export const glossary: Readonly<Record<string, string>> = {
  ACMR: 'Average cache miss ratio: vertices transformed a triangle, with a cache of 16. 3 is the worst, 0.6 to 0.8 good.',
  ATVR: 'Average transformed vertex ratio: how often a vertex is transformed. 1 is the best, above 1.5 scattered.',
  'Base centre': 'How far the pivot (the origin) lies from the middle of the underside of the bounds.',
  'Block format':
    'The compressed format that the texels are stored in, by blocks of 4 × 4 and the like: BC1 to BC7, ETC2, ASTC.',
  'Boundary loops': 'Rings of open edges: each is the rim of an opening.',
  Centre: 'How far the pivot (the origin) lies from the middle of the bounds.',
  'Decal gap':
    'How far a slot that is not opaque lies over the surface under it, along its normal: 1 % and 99 % of points spread over it.',
  'Texels measured':
    'How much of the sheet the figures of colour and values are taken from. What no UV island uses is left out where the mesh is known, and a flat ground always.',
  'Effective size':
    'The size at which a texture would carry as much: what finer waves it holds are lost without a ' +
    'trace, with the difference in dB.',
  'Kept as stored':
    'How near a texture stays to its source in the format of the target, in dB or degrees, tried on windows of it. Measured where the target in the rulebook asks for it.',
  Clips: 'Animations that the file holds.',
  'Closed shells': 'Shells without a single open edge: they have an inside and an outside.',
  'Colour tag':
    'What the file itself says of its colours: sRGB, linear, another profile, or nothing (then what reads it decides).',
  Confidence: 'How sure the direction of green is. Below the limit of the rule nothing is claimed.',
  'Curl energy, green down':
    'How much the slopes contradict one another with green read as down. The true direction has the smaller figure.',
  'Curl energy, green up':
    'How much the slopes contradict one another with green read as up. The true direction has the smaller figure.',
  'Degenerate triangles':
    'Triangles without an area: two corners are the same, or all three lie on a line. On a UV sheet: the same, measured there.',
  'Distinct positions':
    'Places in space at which vertices stand. Vertices that share a place but differ in normal or UV count once here.',
  'Duplicate triangles': 'Triangles over the same three positions as another one.',
  'Duplicate vertices': 'Vertices that equal another one in every attribute; welding them changes nothing.',
  'Empty nodes': 'Nodes without a mesh, camera or light.',
  'Flipped faces':
    'Triangles whose winding faces into the body, or against the rest of their shell. They are culled when drawn.',
  'Green channel':
    'Whether green stands for a slope that faces up or down the sheet, told from the relief itself.',
  'Indices out of range': 'Corners of triangles that name a vertex that does not exist.',
  Islands: 'Pieces of the UV sheet whose triangles hang together.',
  'Lowest point': 'Height of the lowest point over the ground (Y = 0).',
  'Mean vector length':
    'Vectors of a normal map are 1 long. A shorter mean comes from resizing, blending or lossy compression.',
  'Mirrored nodes': 'Nodes whose scale turns the mesh into its mirror image (negative determinant).',
  'Mirrored triangles':
    'Triangles that lie on the UV sheet with their winding turned: letters read backwards on them.',
  'Most influences per vertex': 'The greatest number of bones that one vertex is weighted to.',
  'Multiples of four': 'Whether both sides are multiples of 4, as formats with blocks of 4 × 4 texels need.',
  'Non-finite values': 'Positions, normals or UVs that are no number (NaN) or endless.',
  'Non-manifold edges': 'Edges that three triangles or more share; there is no inside at such an edge.',
  'Normals facing away': 'Triangles whose vertex normals point away from the side that the triangle faces.',
  'Open edges': 'Edges that belong to one triangle only: the rim of a hole or of an open sheet.',
  Overlap: 'Share of the covered part of the UV sheet that more than one triangle covers.',
  'Polygons as delivered':
    'Faces of the file before they were cut into triangles; some formats know triangles only, and some readers do not keep them.',
  Primitives: 'Parts of a mesh that are drawn on their own, one for each material slot.',
  'Powers of two': 'Whether both sides are powers of two (256, 512, 1024 …), as some targets need for mips.',
  Role: 'What the texture carries, as its input, its file or its name says.',
  'Role by pixels':
    'What the pixels look like, with how likely that is. It is only ever offered, never judged by.',
  'Rotated nodes': 'Nodes whose rotation is not baked into their vertices.',
  'Scaled nodes': 'Nodes whose scale is not baked into their vertices.',
  'Said to be for':
    'What a UV channel is for, where somebody said it of this asset: it goes before what its class says.',
  Shells: 'Parts of the mesh that hang together by shared edges.',
  'Small holes': 'Boundary loops of at most eight edges: a missing face or two.',
  Tiles: 'Numbers of the UV tiles that are used: 1001 is the square from 0 to 1.',
  'The origin': 'Somebody said that it stands where it is meant to, wherever the class wants the pivot.',
  'Tiny loose pieces': 'Open shells of at most four triangles that are next to nothing of the surface.',
  'Triangles outside 0 … 1': 'Triangles that leave the unit square of the UV sheet.',
  'UV area covered': 'Area of the unit square that triangles cover, overlap counted once.',
  'UV density':
    'UV sheets for each metre of the surface; times the size of the texture it is the texel density.',
  'Unweighted vertices': 'Vertices of a skin that no bone moves.',
  'Unwelded vertices': 'Positions that lie closer to another than the welding distance.',
  'Uncompressed, RGBA 8 bit': 'Bytes that the top level takes in graphics memory without compression.',
  'Vectors facing away': 'Share of vectors that point into the surface (blue below the middle).',
  'Vectors fit a normal map': 'How well the values serve as unit vectors that face out of the surface.',
  'Weights not summing to 1': 'Vertices of a skin whose weights add up to more or less than 1.',
  'Largest deviation':
    'The furthest that a level or the finest one lies off the other, at samples and vertices of both.',
  '99 % within': 'So far off, or less, lie 99 % of the samples of a level and of the finest one.',
  'One pixel from':
    'From this distance on, what 99 % of a level keep covers no more than a pixel of the target’s screen.',
  'Normals turn by': 'Mean angle between the triangles of a level and those of the finest that lie nearest.',
  'Outline differs':
    'Pixels that only one of two levels covers, as a share of the finest, over a ring of eight views.',
  'UVs move by': 'So far, or less, 95 % of a level lie from where the finest has them on the sheet.',
  'Surface stands out by': 'The furthest that the drawn surface lies outside of all collision shapes.',
  'Of it outside':
    'Share of the drawn surface that lies outside of the collision by more than its tolerance.',
  'Air in the collision':
    'Share of the collision that is reached from outside without crossing the drawn surface; the ground counts as closed.',
}
