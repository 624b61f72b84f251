// For a target that holds light.
fn light(color: vec4<f32>) -> vec4<f32> {
    let alpha = max(color.a, 1e-6);
    let stored = clamp(color.rgb / alpha, vec3(0.0), vec3(1.0));
    let low = stored / 12.92;
    let high = pow((stored + 0.055) / 1.055, vec3(2.4));
    let share = select(high, low, stored <= vec3(0.04045));
    return vec4(share * color.a, color.a);
}

// At the brightness of the target.
fn bright(color: vec4<f32>) -> vec4<f32> {
    return vec4(color.rgb * window.white, color.a);
}

@fragment
fn pixel_in_light(in: Corner) -> @location(0) vec4<f32> {
    let kind = in.shade.x;
    let texels = texels_per_pixel(in);
    if kind == 1u || kind == 5u || kind >= 32u {
        // The vertex colour is made light before the mask.
        var white = in;
        white.color = vec4(1.0);
        return bright(light(in.color) * shaded(white, texels));
    }
    return bright(light(shaded(in, texels)));
}
