// The shaders of docs/drawing.md, under any matrix.
struct Window {
    transform: mat4x4<f32>,
    mask_size: vec2<f32>,
    color_size: vec2<f32>,
    white: f32,
};
@group(0) @binding(0) var<uniform> window: Window;
@group(0) @binding(1) var masks: texture_2d_array<f32>;
@group(0) @binding(2) var colors: texture_2d_array<f32>;
@group(0) @binding(3) var linear: sampler;

struct Corner {
    @builtin(position) at: vec4<f32>,
    @location(0) texel: vec2<f32>,
    @location(1) color: vec4<f32>,
    @location(2) @interpolate(flat) shade: vec4<u32>,
};

@vertex
fn corner(
    @location(0) position: vec2<f32>,
    @location(1) texel: vec2<u32>,    // Uint16x2
    @location(2) color: vec4<f32>,    // Unorm8x4
    @location(3) shade: vec4<u32>,    // Uint8x4
) -> Corner {
    let place = window.transform * vec4(position, 0.0, 1.0);
    return Corner(place, vec2<f32>(texel) / 8.0, color, shade);
}

// A texel of the page that a field is on.
fn field_texel(in: Corner, place: vec2<i32>) -> vec4<f32> {
    if in.shade.x < 64u { return textureLoad(masks, place, i32(in.shade.y), 0); }
    return textureLoad(colors, place, i32(in.shade.y), 0);
}

// The value of a field, in full precision: a GPU's own filtering knows 256 places between two
// texels, which is too few where they are enlarged.
fn field_value(in: Corner) -> f32 {
    let at = in.texel - 0.5;
    let low = floor(at);
    let part = at - low;
    let is_mask = in.shade.x < 64u;
    let size = select(textureDimensions(colors), textureDimensions(masks), is_mask);
    let first = clamp(vec2<i32>(low), vec2(0), vec2<i32>(size) - 1);
    let last = clamp(vec2<i32>(low) + 1, vec2(0), vec2<i32>(size) - 1);
    let top_right = field_texel(in, vec2(last.x, first.y));
    let bottom_left = field_texel(in, vec2(first.x, last.y));
    let top = mix(field_texel(in, first), top_right, part.x);
    let bottom = mix(bottom_left, field_texel(in, last), part.x);
    let value = mix(top, bottom, part.y);
    if is_mask { return value.r; }
    if in.shade.z != 0u || in.shade.w != 0u { return value.a; }
    return max(min(value.r, value.g), min(max(value.r, value.g), value.b));
}

// The coverage by a distance field; `texels` is how many texels a pixel is wide.
fn field(in: Corner, texels: f32) -> f32 {
    let range = f32(in.shade.x & 31u);
    let outset = f32((i32(in.shade.z) ^ 128) - 128) / 256.0 * range;
    let softness = f32(in.shade.w) / 255.0 * range;
    let distance = (field_value(in) - 0.5) * range + outset;
    let share = clamp(distance / max(texels, softness) + 0.5, 0.0, 1.0);
    return select(share, share * share * (3.0 - 2.0 * share), softness > 0.0);
}

// The number of texels that a pixel is wide, on average of its two axes. Called for every
// pixel alike: it looks at its neighbours.
fn texels_per_pixel(in: Corner) -> f32 {
    return (length(dpdx(in.texel)) + length(dpdy(in.texel))) * 0.5;
}

// The colour of a pixel of a quad.
fn shaded(in: Corner, texels: f32) -> vec4<f32> {
    if in.shade.x >= 32u { return in.color * field(in, texels); }
    let page = i32(in.shade.y);
    let mask_at = in.texel / window.mask_size;
    let mask = textureSampleLevel(masks, linear, mask_at, page, 0.0).r;
    let veil_at = mask_at + vec2(0.0, f32(in.shade.z) * 4.0 / window.mask_size.y);
    let veil = textureSampleLevel(masks, linear, veil_at, page, 0.0).r;
    let color = textureSampleLevel(colors, linear, in.texel / window.color_size, page, 0.0);
    // The byte is signed.
    let weight = f32((i32(in.shade.z) ^ 128) - 128) / 64.0;
    switch in.shade.x {
        case 1u: { return in.color * clamp(mask + weight * mask * (1.0 - mask), 0.0, 1.0); }
        case 4u: { return in.color * color; }
        case 5u: {
            let opacity = f32(in.shade.w) / 255.0;
            return in.color * (mask * (1.0 - veil) / (1.0 - opacity * veil));
        }
        default: { return in.color; }
    }
}

@fragment
fn pixel(in: Corner) -> @location(0) vec4<f32> {
    return shaded(in, texels_per_pixel(in));
}
