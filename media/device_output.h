#pragma once

#include "media/sound_output.h"

namespace wirenote {

// The default sound device by way of Qt Multimedia, or nullptr when there is none. Use and destroy
// it on the interface thread.
std::unique_ptr<SoundOutput> makeDeviceOutput();

} // namespace wirenote
