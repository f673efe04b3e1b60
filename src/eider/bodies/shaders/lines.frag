#version 330
// Draws a line where the normal or the depth of what is seen leaps from one place to the next.
uniform sampler2D colours;
uniform sampler2D shapes;
uniform int width;
uniform float crease;
uniform vec3 ink;
out vec4 result;

float leap(vec4 a, vec4 b) {
    // The paper has no normal: beside anything else it leaps, beside itself it does not.
    float paper = max(dot(a.xyz, a.xyz), dot(b.xyz, b.xyz));
    return paper > 0.5 && dot(a.xyz, b.xyz) < crease ? 1.0 : 0.0;
}

void main() {
    ivec2 place = ivec2(gl_FragCoord.xy);
    ivec2 last = textureSize(shapes, 0) - 1;
    vec4 here = texelFetch(shapes, place, 0);
    vec4 right = texelFetch(shapes, min(place + ivec2(width, 0), last), 0);
    vec4 up = texelFetch(shapes, min(place + ivec2(0, width), last), 0);
    vec4 left = texelFetch(shapes, max(place - ivec2(width, 0), ivec2(0)), 0);
    vec4 down = texelFetch(shapes, max(place - ivec2(0, width), ivec2(0)), 0);
    float line = max(leap(here, right), leap(here, up));
    // On a slope the depth grows evenly; a leap does not.
    float bend = max(abs(left.w + right.w - 2.0 * here.w), abs(down.w + up.w - 2.0 * here.w));
    line = max(line, smoothstep(0.0015, 0.004, bend));
    vec3 seen = texelFetch(colours, place, 0).rgb;
    result = vec4(mix(seen, ink, 0.7 * line), 1.0);
}
