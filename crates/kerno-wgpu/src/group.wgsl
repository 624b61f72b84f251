// Lays a group over what is below it: a triangle over all of the target.
struct Group { opacity: f32, a: f32, b: f32, c: f32 };
@group(0) @binding(0) var<uniform> group: Group;
@group(0) @binding(1) var drawn: texture_2d<f32>;

@vertex
fn corner(@builtin(vertex_index) index: u32) -> @builtin(position) vec4<f32> {
    let place = vec2(f32(index & 1u) * 4.0 - 1.0, f32(index >> 1u) * 4.0 - 1.0);
    return vec4(place, 0.0, 1.0);
}

@fragment
fn pixel(@builtin(position) at: vec4<f32>) -> @location(0) vec4<f32> {
    return textureLoad(drawn, vec2<i32>(at.xy), 0) * group.opacity;
}
