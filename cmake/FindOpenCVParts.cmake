# OpenCV's parts without the package that brings all of it (its own CMake files are only there).
find_path(OpenCVParts_INCLUDE_DIR opencv2/core.hpp PATH_SUFFIXES opencv4)
set(OpenCVParts_LIBRARIES)
foreach(part core imgproc calib3d video)
    find_library(OpenCVParts_${part}_LIBRARY opencv_${part})
    list(APPEND OpenCVParts_LIBRARIES ${OpenCVParts_${part}_LIBRARY})
endforeach()
include(FindPackageHandleStandardArgs)
find_package_handle_standard_args(OpenCVParts REQUIRED_VARS OpenCVParts_INCLUDE_DIR OpenCVParts_core_LIBRARY
    OpenCVParts_imgproc_LIBRARY OpenCVParts_calib3d_LIBRARY OpenCVParts_video_LIBRARY)
if(OpenCVParts_FOUND AND NOT TARGET OpenCVParts::OpenCVParts)
    add_library(OpenCVParts::OpenCVParts INTERFACE IMPORTED)
    set_target_properties(OpenCVParts::OpenCVParts PROPERTIES
        INTERFACE_INCLUDE_DIRECTORIES "${OpenCVParts_INCLUDE_DIR}" INTERFACE_LINK_LIBRARIES "${OpenCVParts_LIBRARIES}")
endif()
