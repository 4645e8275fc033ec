# How every folder becomes a link target of its own.
include(GoogleTest)
find_package(PkgConfig REQUIRED)
find_program(CCACHE ccache)
if(CCACHE AND NOT CMAKE_CXX_COMPILER_LAUNCHER)
    # What was compiled in one folder serves a checkout in another; sloppy for the precompiled headers.
    set(CMAKE_CXX_COMPILER_LAUNCHER env CCACHE_BASEDIR=${CMAKE_SOURCE_DIR} CCACHE_NOHASHDIR=1 CCACHE_SLOPPINESS=pch_defines,time_macros ${CCACHE})
endif()
find_program(MOLD mold)
if(MOLD)
    add_link_options(-fuse-ld=mold)
endif()

add_library(wirenote_flags INTERFACE)
target_compile_options(wirenote_flags INTERFACE -Wall -Wextra -Wpedantic -Wshadow
    $<$<CXX_COMPILER_ID:GNU>:-Wno-restrict> # g++ 12 gives false alarms in std::string (GCC bug 105651)
   
    $<$<BOOL:${WIRENOTE_STRICT}>:-Werror>)

# wirenote_library(NAME [SOURCES …] [DEPENDS …] [PRIVATE_DEPENDS …])
# DEPENDS are the arrows of docs/architecture.md; tools/check_arrows.py compares them with the includes.
function(wirenote_library name)
    cmake_parse_arguments(arg "" "" "SOURCES;DEPENDS;PRIVATE_DEPENDS" ${ARGN})
    add_library(wirenote_${name} STATIC ${arg_SOURCES})
    target_link_libraries(wirenote_${name} PUBLIC ${arg_DEPENDS}
        PRIVATE wirenote_flags ${arg_PRIVATE_DEPENDS})
    target_include_directories(wirenote_${name} PUBLIC ${WIRENOTE_INCLUDE_ROOT})
endfunction()

# wirenote_test(NAME SOURCES … DEPENDS …): one test program a folder.
function(wirenote_test name)
    cmake_parse_arguments(arg "QT" "" "SOURCES;DEPENDS" ${ARGN})
    add_executable(test_${name} ${arg_SOURCES})
    target_link_libraries(test_${name} PRIVATE wirenote_flags ${arg_DEPENDS} GTest::gmock)
    if(NOT arg_QT)
        target_link_libraries(test_${name} PRIVATE GTest::gtest_main)
    endif()
    target_include_directories(test_${name} PRIVATE ${CMAKE_SOURCE_DIR}/tests)
    # Tests are compiled far more often than they are waited for.
    target_compile_options(test_${name} PRIVATE $<$<CONFIG:Release>:-O1>)
    target_compile_definitions(test_${name} PRIVATE WIRENOTE_SOURCE_DIR="${CMAKE_SOURCE_DIR}")
    if("wirenote_session" IN_LIST arg_DEPENDS) # those of the core are the same in every preset, and compiled once
        target_compile_definitions(test_${name} PRIVATE WIRENOTE_BIN_DIR="${CMAKE_BINARY_DIR}/bin")
    endif()
    gtest_discover_tests(test_${name} DISCOVERY_TIMEOUT 60
        PROPERTIES ENVIRONMENT "QT_QPA_PLATFORM=offscreen" TIMEOUT 300)
endfunction()
