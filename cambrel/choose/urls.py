from django.urls import path

from cambrel.choose import views

app_name = "choose"
urlpatterns = [path("choose/", views.choose, name="choose")]
