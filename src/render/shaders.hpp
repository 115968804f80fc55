// What the graphics card is told, in GLSL 3.30.
#pragma once

namespace vic::render::shaders {

// Instances bring the three rows of what places them.
inline constexpr const char* kPlace = R"(#version 330 core
layout(location = 0) in vec3 at;
layout(location = 1) in vec3 normal;
layout(location = 2) in vec2 uv;
layout(location = 3) in vec4 row0;
layout(location = 4) in vec4 row1;
layout(location = 5) in vec4 row2;
uniform mat4 view;
uniform mat4 light;
uniform vec4 cut; // what is on its far side is not seen
uniform vec4 eye; // its place, or with 0 the way to it
out vec3 seenNormal;
out vec2 seenUv;
out vec4 inLight;
out vec3 toEye;
void main() {
    vec4 p = vec4(at, 1);
    vec4 world = vec4(dot(row0, p), dot(row1, p), dot(row2, p), 1);
    seenNormal = vec3(dot(row0.xyz, normal), dot(row1.xyz, normal), dot(row2.xyz, normal));
    seenUv = uv;
    inLight = light * world;
    toEye = eye.w > 0.5 ? eye.xyz - world.xyz : eye.xyz;
    gl_ClipDistance[0] = dot(world, cut);
    gl_Position = view * world;
}
)";

// One sun with its shadows, and the light of the sky, which is more from above than from below.
inline constexpr const char* kLit = R"(#version 330 core
in vec3 seenNormal;
in vec2 seenUv;
in vec4 inLight;
in vec3 toEye;
uniform sampler2D picture;
uniform sampler2DShadow shadows;
uniform bool section;
uniform vec3 sectionColour;
uniform vec4 colour;
uniform vec3 sunWay;
uniform vec3 sunColour;
uniform bool cutOut;
uniform float fog;
uniform vec3 fogColour;
out vec4 seen;
void main() {
    vec4 own = texture(picture, seenUv) * colour;
    if (cutOut && own.a < 0.5) discard;
    // The inner side of what is closed is seen where it was cut.
    if (section && dot(seenNormal, toEye) < 0.0) {
        seen = vec4(sectionColour, 1);
        return;
    }
    vec3 n = normalize(seenNormal);
    if (!gl_FrontFacing) n = -n;
    vec3 place = inLight.xyz / inLight.w * 0.5 + 0.5;
    float lit = 1.0;
    if (all(greaterThan(place, vec3(0.0))) && all(lessThan(place, vec3(1.0)))) {
        lit = 0.0;
        for (int y = -1; y <= 1; ++y)
            for (int x = -1; x <= 1; ++x)
                lit += texture(shadows, vec3(place.xy + vec2(x, y) / 2048.0, place.z - 0.0012)) / 9.0;
    }
    vec3 sky = mix(vec3(0.36, 0.35, 0.36), vec3(0.56, 0.58, 0.62), n.y * 0.5 + 0.5);
    vec3 bright = own.rgb * (sky + sunColour * max(dot(n, sunWay), 0.0) * lit * 0.62);
    // By how far away it is, which in views without a vanishing point all is alike.
    seen = vec4(mix(bright, fogColour, fog > 0.0 ? 1.0 - exp2(-1.0 / (gl_FragCoord.w * fog)) : 0.0), 1);
}
)";

inline constexpr const char* kDepth = R"(#version 330 core
in vec2 seenUv;
uniform sampler2D picture;
uniform bool cutOut;
void main() {
    if (cutOut && texture(picture, seenUv).a < 0.5) discard;
}
)";

// Four corners about a foot: 0 and 1 to the left, 2 and 3 to the right, every second one up.
inline constexpr const char* kCardAt = R"(#version 330 core
layout(location = 0) in vec3 foot;
layout(location = 1) in vec4 reach;
layout(location = 2) in vec4 tint;
layout(location = 3) in float turned;
layout(location = 4) in vec2 fixedAcross;
uniform mat4 view;
uniform mat4 light;
uniform vec3 across;
uniform vec3 facing;
uniform vec3 sunWay;
uniform vec4 cut;
out vec3 seenNormal;
out vec2 seenUv;
out vec4 inLight;
out vec4 seenTint;
void main() {
    bool right = gl_VertexID >= 2, up = gl_VertexID % 2 == 1;
    bool stands = dot(fixedAcross, fixedAcross) > 0.0;
    vec3 along = stands ? vec3(fixedAcross.x, 0, fixedAcross.y) : across;
    vec3 seenFrom = stands ? vec3(-fixedAcross.y, 0, fixedAcross.x) : facing;
    if (dot(seenFrom, facing) < 0.0) seenFrom = -seenFrom; // from behind, too
    vec3 at = foot + along * (right ? reach.y : -reach.x) + vec3(0, up ? reach.z : -reach.w, 0);
    seenUv = vec2(right != (turned > 0.5) ? 1.0 : 0.0, up ? 0.0 : 1.0);
    seenNormal = normalize(seenFrom + vec3(0, 0.7, 0)); // as what is round, not as a wall
    seenTint = tint;
    // In front of its own shadow, as seen from the sun.
    inLight = light * vec4(foot + vec3(0, max(reach.z * 0.35, 0.05), 0) + sunWay * 0.6, 1);
    gl_ClipDistance[0] = dot(vec4(foot, 1), cut); // whole, or not at all
    gl_Position = view * vec4(at, 1);
}
)";

inline constexpr const char* kCard = R"(#version 330 core
in vec3 seenNormal;
in vec2 seenUv;
in vec4 inLight;
in vec4 seenTint;
uniform sampler2D picture;
uniform sampler2DShadow shadows;
uniform vec3 sunWay;
uniform vec3 sunColour;
uniform float fog;
uniform vec3 fogColour;
out vec4 seen;
void main() {
    vec4 own = texture(picture, seenUv) * seenTint;
    if (own.a < 0.5) discard;
    vec3 place = inLight.xyz / inLight.w * 0.5 + 0.5;
    float lit = texture(shadows, vec3(place.xy, place.z - 0.004));
    vec3 sky = mix(vec3(0.36, 0.35, 0.36), vec3(0.56, 0.58, 0.62), seenNormal.y * 0.5 + 0.5);
    vec3 bright = own.rgb * (sky + sunColour * max(dot(seenNormal, sunWay), 0.0) * mix(0.25, 1.0, lit) * 0.62);
    seen = vec4(mix(bright, fogColour, fog > 0.0 ? 1.0 - exp2(-1.0 / (gl_FragCoord.w * fog)) : 0.0), 1);
}
)";

inline constexpr const char* kCardDepth = R"(#version 330 core
in vec2 seenUv;
uniform sampler2D picture;
void main() {
    if (texture(picture, seenUv).a < 0.5) discard;
}
)";

inline constexpr const char* kLineAt = R"(#version 330 core
layout(location = 0) in vec3 at;
uniform mat4 view;
uniform vec4 cut;
void main() {
    gl_ClipDistance[0] = dot(vec4(at, 1), cut);
    gl_Position = view * vec4(at, 1);
}
)";

inline constexpr const char* kLine = R"(#version 330 core
uniform vec4 colour;
out vec4 seen;
void main() { seen = colour; }
)";

// Round.
inline constexpr const char* kDot = R"(#version 330 core
uniform vec4 colour;
out vec4 seen;
void main() {
    if (length(gl_PointCoord - vec2(0.5)) > 0.5) discard;
    seen = colour;
}
)";

// Stripes on the screen, and a veil between them.
inline constexpr const char* kHatched = R"(#version 330 core
uniform vec4 colour;
uniform float stripe;
out vec4 seen;
void main() {
    float along = mod(gl_FragCoord.x + gl_FragCoord.y, stripe);
    seen = vec4(colour.rgb, along < stripe * 0.22 ? 0.85 : 0.14);
}
)";

} // namespace vic::render::shaders
