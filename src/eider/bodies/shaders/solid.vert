#version 330
// Faces of solids: where each corner is in the picture.
uniform mat4 view;
in vec3 position;
in vec3 normal;
in vec4 colour;
out vec3 leaning;
out vec4 tint;
out float along_x;
void main() {
    gl_Position = view * vec4(position, 1.0);
    leaning = normal;
    tint = colour;
    along_x = position.x;
}
