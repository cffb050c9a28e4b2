# Devices that figures are measured and drawn on.

# A device of the kind that the ending of `file` names; sizes in inches.
open_device <- function(file, width, height, dpi) {
  switch(file_ending(file),
    png = grDevices::png(file, width, height, units = "in", res = dpi, type = png_type()),
    # Text stays text.
    svg = svglite::svglite(file, width, height),
    # Cairo's PDF holds its fonts and knows all letters.
    pdf = if (isTRUE(capabilities("cairo"))) {
      grDevices::cairo_pdf(file, width, height)
    } else {
      grDevices::pdf(file, width, height, timestamp = FALSE)
    }
  )
}

# The device that was current before is so again.
close_device <- function(device, current) {
  grDevices::dev.off(device)
  if (current %in% grDevices::dev.list()) grDevices::dev.set(current)
}

# Servers have no screen to draw on; cairo needs none.
png_type <- function() if (isTRUE(capabilities("cairo"))) "cairo" else getOption("bitmapType")
