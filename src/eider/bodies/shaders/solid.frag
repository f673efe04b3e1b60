#version 330
// Faces of solids: their colour in the light, and their normal and depth for the lines that are drawn later.
uniform vec3 light;
uniform vec3 eye;
uniform float section;
uniform float opacity;
in vec3 leaning;
in vec4 tint;
in float along_x;
layout(location = 0) out vec4 seen;
layout(location = 1) out vec4 shape;
void main() {
    if (along_x > section) discard;
    vec3 normal = normalize(leaning);
    float key = max(dot(normal, light), 0.0);
    float sky = 0.5 + 0.5 * normal.z;
    // The last part of the colour is how much the material shines.
    float glint = tint.a * pow(max(dot(normal, normalize(light + eye)), 0.0), 24.0);
    seen = vec4(tint.rgb * (0.42 + 0.22 * sky + 0.38 * key) + 0.3 * glint, opacity);
    shape = vec4(normal, gl_FragCoord.z);
}
