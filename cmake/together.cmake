# together_by_folder(TARGET): where CMAKE_UNITY_BUILD is on, the target's sources are compiled folder by folder, at most
# ten at once, so that headers are read once for all of them. Names in unnamed namespaces of one folder must differ for
# that. The presets "dev" and "each-file" compile file by file, so that an include that is missing shows.
function(together_by_folder target)
  set_target_properties(${target} PROPERTIES UNITY_BUILD_MODE GROUP)
  get_target_property(sources ${target} SOURCES)
  foreach(source IN LISTS sources)
    get_filename_component(path ${source} ABSOLUTE)
    if(NOT path MATCHES "\\.cpp$" OR path MATCHES "/main\\.cpp$")
      continue()
    endif()
    get_filename_component(folder ${path} DIRECTORY)
    string(MAKE_C_IDENTIFIER ${folder} name)
    math(EXPR held_${name} "${held_${name}} + 1")
    math(EXPR part "(${held_${name}} - 1) / 10")
    set_source_files_properties(${source} PROPERTIES UNITY_GROUP ${name}_${part})
  endforeach()
endfunction()
