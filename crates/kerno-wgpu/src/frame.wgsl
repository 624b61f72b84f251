// The shaders of docs/drawing.md.
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

// The colour of a pixel of a quad.
fn shaded(in: Corner) -> vec4<f32> {
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
    return shaded(in);
}
