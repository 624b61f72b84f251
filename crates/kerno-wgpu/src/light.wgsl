// For a target that converts: colours as light, so that it stores them as they are.
fn light(color: vec4<f32>) -> vec4<f32> {
    let alpha = max(color.a, 1e-6);
    let stored = clamp(color.rgb / alpha, vec3(0.0), vec3(1.0));
    let low = stored / 12.92;
    let high = pow((stored + 0.055) / 1.055, vec3(2.4));
    return vec4(select(high, low, stored <= vec3(0.04045)) * color.a, color.a);
}

@fragment
fn pixel_in_light(in: Corner) -> @location(0) vec4<f32> {
    let kind = in.shade.x;
    if kind == 1u || kind == 5u {
        // The vertex colour is made light before the mask.
        var white = in;
        white.color = vec4(1.0);
        return light(in.color) * shaded(white);
    }
    return light(shaded(in));
}
