#include "render/gl.hpp"

#include <vector>

namespace vic::render {

Texture::Texture(const Image& image, bool repeats) {
    GLuint id = 0;
    glGenTextures(1, &id);
    id_.reset(id);
    glBindTexture(GL_TEXTURE_2D, id);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, image.width(), image.height(), 0, GL_RGBA, GL_UNSIGNED_BYTE,
                 image.pixels().data());
    const GLint wraps = repeats ? GL_REPEAT : GL_CLAMP_TO_EDGE;
    for (const GLenum way : {GL_TEXTURE_WRAP_S, GL_TEXTURE_WRAP_T}) glTexParameteri(GL_TEXTURE_2D, way, wraps);
    for (const GLenum filter : {GL_TEXTURE_MIN_FILTER, GL_TEXTURE_MAG_FILTER})
        glTexParameteri(GL_TEXTURE_2D, filter, GL_NEAREST);
}

namespace {

std::string compiled(GLuint shader, const char* source) {
    glShaderSource(shader, 1, &source, nullptr);
    glCompileShader(shader);
    GLint fine = 0, length = 0;
    glGetShaderiv(shader, GL_COMPILE_STATUS, &fine);
    if (fine != 0) return {};
    glGetShaderiv(shader, GL_INFO_LOG_LENGTH, &length);
    std::vector<char> log(static_cast<std::size_t>(length) + 1);
    glGetShaderInfoLog(shader, length, nullptr, log.data());
    return std::string("a shader: ") + log.data();
}

} // namespace

std::string Program::make(const char* vertex, const char* fragment) {
    id_.reset(glCreateProgram());
    const GLuint shaders[] = {glCreateShader(GL_VERTEX_SHADER), glCreateShader(GL_FRAGMENT_SHADER)};
    std::string trouble = compiled(shaders[0], vertex);
    if (trouble.empty()) trouble = compiled(shaders[1], fragment);
    for (const GLuint shader : shaders) glAttachShader(id_.id(), shader);
    glLinkProgram(id_.id());
    GLint fine = 0;
    glGetProgramiv(id_.id(), GL_LINK_STATUS, &fine);
    for (const GLuint shader : shaders) glDeleteShader(shader);
    if (trouble.empty() && fine == 0) trouble = "shaders that do not fit together";
    return trouble;
}

GLint Program::at(const char* name) {
    const auto [known, fresh] = places_.try_emplace(name, 0);
    if (fresh) known->second = glGetUniformLocation(id_.id(), name);
    return known->second;
}

void Frame::make(Size size, int samples) {
    if (frame_ && size == size_) return;
    size_ = size;
    GLuint id = 0;
    glGenFramebuffers(1, &id);
    frame_.reset(id);
    glBindFramebuffer(GL_FRAMEBUFFER, id);
    const std::pair<Owned<end_store>*, std::pair<GLenum, GLenum>> parts[] = {
        {&colour_, {GL_RGBA8, GL_COLOR_ATTACHMENT0}}, {&depth_, {GL_DEPTH_COMPONENT24, GL_DEPTH_ATTACHMENT}}};
    for (const auto& [store, how] : parts) {
        GLuint part = 0;
        glGenRenderbuffers(1, &part);
        store->reset(part);
        glBindRenderbuffer(GL_RENDERBUFFER, part);
        glRenderbufferStorageMultisample(GL_RENDERBUFFER, samples, how.first, size.w, size.h);
        glFramebufferRenderbuffer(GL_FRAMEBUFFER, how.second, GL_RENDERBUFFER, part);
    }
}

} // namespace vic::render
