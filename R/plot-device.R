# This file opens and closes the devices on which figures are measured and drawn.

# Opens the device that the ending of `file` names. Sizes are in inches.
open_device <- function(file, width, height, dpi) {
  switch(file_ending(file),
    png = grDevices::png(file, width, height, units = "in", res = dpi, type = png_type()),
    # svglite writes text as text.
    svg = svglite::svglite(file, width, height),
    # Cairo embeds fonts in a PDF and knows all letters.
    pdf = if (isTRUE(capabilities("cairo"))) {
      grDevices::cairo_pdf(file, width, height)
    } else {
      grDevices::pdf(file, width, height, timestamp = FALSE)
    }
  )
}

# Closes a device and makes the earlier one current again.
close_device <- function(device, current) {
  grDevices::dev.off(device)
  if (current %in% grDevices::dev.list()) grDevices::dev.set(current)
}

# Servers have no screen to draw on; cairo needs none.
png_type <- function() if (isTRUE(capabilities("cairo"))) "cairo" else getOption("bitmapType")
