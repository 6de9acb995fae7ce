// Text of the kernel that walks bytes 48 at a time, as a multiple of 1, 2, 3 and 4 channels: least, greatest, sum and sum of squares by place in the group.

/** Where the kernel keeps what it finds, in bytes: 48 least and 48 greatest values, 48 sums of 16 bits, 48 sums of squares of 32 bits. */
export const places = { least: 0, greatest: 48, sums: 96, squares: 192, data: 1024 }
/** Sums of 16 bits hold 257 bytes at the most. */
export const MOST_GROUPS = 256

const vectors = [0, 1, 2], halves = ['low', 'high']
const each = (write) => vectors.map(write).join('\n')
const eachHalf = (write) => vectors.flatMap((v) => halves.map((half, h) => write(v, half, v * 2 + h))).join('\n')
/** Of four squares each, in the order of the bytes. */
const eachQuarter = (write) => vectors.flatMap((v) => halves.flatMap((half, h) => halves.map((part, p) => write(v, half, part, v * 4 + h * 2 + p)))).join('\n')

/** `scan(groups)` takes so many groups from the data's place, at most 256; least and greatest go on from what stands there, sums begin anew. */
export const text = `(module
  (memory (export "memory") 1)
  (func (export "scan") (param $groups i32)
    (local $at i32) (local $end i32) (local $x v128) (local $wide v128)
${each((v) => `    (local $least${v} v128) (local $greatest${v} v128)`)}
${eachHalf((_v, _half, i) => `    (local $sum${i} v128)`)}
${eachQuarter((_v, _half, _part, i) => `    (local $square${i} v128)`)}
${each((v) => `    (local.set $least${v} (v128.load offset=${places.least + v * 16} (i32.const 0)))
    (local.set $greatest${v} (v128.load offset=${places.greatest + v * 16} (i32.const 0)))`)}
    (local.set $at (i32.const ${places.data}))
    (local.set $end (i32.add (local.get $at) (i32.mul (local.get $groups) (i32.const 48))))
    (block $done (loop $next
      (br_if $done (i32.ge_u (local.get $at) (local.get $end)))
${each((v) => `      (local.set $x (v128.load offset=${v * 16} (local.get $at)))
      (local.set $least${v} (i8x16.min_u (local.get $least${v}) (local.get $x)))
      (local.set $greatest${v} (i8x16.max_u (local.get $greatest${v}) (local.get $x)))
${halves.map((half, h) => `      (local.set $wide (i16x8.extend_${half}_i8x16_u (local.get $x)))
      (local.set $sum${v * 2 + h} (i16x8.add (local.get $sum${v * 2 + h}) (local.get $wide)))
${halves.map((part, p) => `      (local.set $square${v * 4 + h * 2 + p} (i32x4.add (local.get $square${v * 4 + h * 2 + p}) (i32x4.extmul_${part}_i16x8_u (local.get $wide) (local.get $wide))))`).join('\n')}`).join('\n')}`)}
      (local.set $at (i32.add (local.get $at) (i32.const 48)))
      (br $next)))
${each((v) => `    (v128.store offset=${places.least + v * 16} (i32.const 0) (local.get $least${v}))
    (v128.store offset=${places.greatest + v * 16} (i32.const 0) (local.get $greatest${v}))`)}
${eachHalf((_v, _half, i) => `    (v128.store offset=${places.sums + i * 16} (i32.const 0) (local.get $sum${i}))`)}
${eachQuarter((_v, _half, _part, i) => `    (v128.store offset=${places.squares + i * 16} (i32.const 0) (local.get $square${i}))`)}))
`
